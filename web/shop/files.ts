import type { FileKeeper } from '../entry/files';
import { api, ask, changingHeaders } from '../shared/api/client';
import { upload } from '../shared/upload';

const ADDRESS = '/api/shop/v1/files';

/** Takes the files of the shopper into the cart. */
export const cartFiles: FileKeeper = {
  take: (file, field, tell, signal) => upload(ADDRESS, file, field, changingHeaders, tell, signal),
  find: (id) => ask(api.GET('/api/shop/v1/files/{id}', { params: { path: { id } } })).catch(() => undefined),
  drop: async (id) => {
    await fetch(`${ADDRESS}/${id}`, { method: 'DELETE', headers: { 'Tus-Resumable': '1.0.0', ...(await changingHeaders()) } });
  },
};
