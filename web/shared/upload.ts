/** An upload was refused; the message is a sentence for people. */
export class UploadRefused extends Error {}

/** How an upload goes: how much of the file is there, and whether the connection is lost and it waits. */
export interface Progress {
  sent: number;
  waiting: boolean;
}

const TUS = { 'Tus-Resumable': '1.0.0' };
const PAUSES = [500, 1000, 2000, 4000, 8000, 15000];

// One after the other: the first makes the cart that all belong to.
let lastBegun: Promise<unknown> = Promise.resolve();

const base64 = (text: string) => btoa(String.fromCharCode(...new TextEncoder().encode(text)));

/**
 * Uploads a file by the protocol tus 1.0.0, and goes on from where it was when the connection is lost, also after the page was loaded again
 * and the same file chosen once more.
 *
 * @param address Where uploads begin.
 * @param file The file.
 * @param field The key of the field that it is for.
 * @param headers The headers that every request carries.
 * @param tell Told how it goes.
 * @param signal Gives it up.
 * @returns The id of the upload.
 * @throws UploadRefused when the server does not take it.
 */
export async function upload(
  address: string,
  file: File,
  field: string,
  headers: () => Promise<Record<string, string>>,
  tell: (progress: Progress) => void,
  signal: AbortSignal,
): Promise<string> {
  const key = `sexton-upload:${[field, file.name, file.size, file.lastModified].join('/')}`;
  let place = sessionStorage.getItem(key);
  for (let turn = 0; ;) {
    try {
      let offset = place ? await ask(place) : undefined;
      if (!place || offset === undefined) {
        // Not begun yet, or gone meanwhile.
        place = await inTurn(begin);
        sessionStorage.setItem(key, place);
        offset = 0;
      }
      const there = await send(
        place,
        offset,
        await headers(),
        file,
        (sent) => {
          turn = 0;
          tell({ sent, waiting: false });
        },
        signal,
      );
      if (there >= file.size) {
        sessionStorage.removeItem(key);
        return place.split('/').at(-1)!;
      }
    } catch (error) {
      if (error instanceof UploadRefused || signal.aborted) {
        sessionStorage.removeItem(key);
        throw error;
      }
      tell({ sent: 0, waiting: true });
      await pause(PAUSES[Math.min(turn++, PAUSES.length - 1)]!, signal);
    }
  }

  async function begin(): Promise<string> {
    const reply = await fetch(address, {
      method: 'POST',
      headers: {
        ...TUS,
        ...(await headers()),
        'Upload-Length': String(file.size),
        'Upload-Metadata': `filename ${base64(file.name)},field ${base64(field)}`,
      },
      signal,
    });
    if (!reply.ok) throw await refusal(reply);
    return reply.headers.get('Location')!;
  }

  async function ask(at: string): Promise<number | undefined> {
    const reply = await fetch(at, { method: 'HEAD', headers: TUS, signal });
    return reply.ok && reply.headers.get('Upload-Length') === String(file.size) ? Number(reply.headers.get('Upload-Offset')) : undefined;
  }
}

function inTurn<T>(work: () => Promise<T>): Promise<T> {
  const mine = lastBegun.then(work, work);
  lastBegun = mine.catch(() => undefined);
  return mine;
}

// What a server says that is out of order for a while is no refusal.
async function refusal(reply: { status: number; json: () => Promise<unknown> }): Promise<Error> {
  if (reply.status >= 500 || reply.status === 409) return new Error('Not just now.');
  const problem = (await reply.json().catch(() => ({}))) as { detail?: string };
  return new UploadRefused(problem.detail ?? 'This file could not be taken. Choose it once more.');
}

// By the older way of asking, since the newer one does not tell how much was sent.
function send(
  place: string,
  offset: number,
  headers: Record<string, string>,
  file: File,
  tell: (sent: number) => void,
  signal: AbortSignal,
): Promise<number> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open('PATCH', place);
    for (const [name, value] of Object.entries({
      ...TUS,
      ...headers,
      'Upload-Offset': String(offset),
      'Content-Type': 'application/offset+octet-stream',
    }))
      request.setRequestHeader(name, value);
    request.upload.onprogress = (event) => tell(offset + event.loaded);
    request.onload = () => {
      if (request.status === 204) resolve(Number(request.getResponseHeader('Upload-Offset')));
      else refusal({ status: request.status, json: async () => JSON.parse(request.responseText) as unknown }).then(reject, reject);
    };
    request.onerror = () => reject(new Error('The connection is lost.'));
    request.onabort = () => reject(new DOMException('Given up.', 'AbortError'));
    signal.addEventListener('abort', () => request.abort());
    request.send(file.slice(offset));
  });
}

// Not longer than until the browser says that it is connected again.
function pause(milliseconds: number, signal: AbortSignal): Promise<void> {
  return new Promise((resolve) => {
    const go = () => {
      clearTimeout(timer);
      window.removeEventListener('online', go);
      signal.removeEventListener('abort', go);
      resolve();
    };
    const timer = setTimeout(go, milliseconds);
    window.addEventListener('online', go);
    signal.addEventListener('abort', go);
  });
}
