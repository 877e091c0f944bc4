import type { Schemas } from '../../shared/api/client';

/** What is done with an answer that does not fit, as a clause says it. */
export const otherwiseWords: { key: Schemas['Otherwise']; name: string }[] = [
  { key: 'refuse', name: 'is refused before publishing' },
  { key: 'call', name: 'stops it and calls whoever answers for it' },
  { key: 'shorten', name: 'is shortened, with a mark' },
  { key: 'note', name: 'goes on in the note' },
];
