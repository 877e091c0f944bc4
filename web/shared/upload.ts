import type { DetailedError } from 'tus-js-client';
import { say } from './wording';

/** An upload was refused; the message is a sentence for people. */
export class UploadRefused extends Error {}

/** How an upload goes: how much of the file is there, and whether the connection is lost and it waits. */
export interface Progress {
  sent: number;
  waiting: boolean;
}

// It waits as long as the page is there: the last pause again and again.
const PAUSES = [500, 1000, 2000, 4000, 8000, ...Array<number>(10_000).fill(15_000)];

// One after the other: the first makes the cart that all belong to.
let lastBegun: Promise<unknown> = Promise.resolve();

/**
 * Uploads a file by the protocol tus 1.0.0, and goes on from where it was when the connection is lost, also after the page was loaded again
 * and the same file chosen once more. The client of the protocol is loaded with the first file.
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
  const tus = await import('tus-js-client');
  signal.throwIfAborted();
  // The place of what was begun is kept in this tab only, as the cart's other answers are.
  const key = `sexton-upload:${[field, file.name, file.size, file.lastModified].join('/')}`;
  const done = Promise.withResolvers<string>();
  const begun = Promise.withResolvers<void>();
  let waiting = false;

  const sending = new tus.Upload(file, {
    endpoint: address,
    uploadUrl: sessionStorage.getItem(key),
    metadata: { filename: file.name, field },
    storeFingerprintForResuming: false,
    retryDelays: PAUSES,
    onBeforeRequest: async (request) => {
      for (const [name, value] of Object.entries(await headers())) request.setHeader(name, value);
    },
    // A server that is out of order for a moment has not forgotten the upload, and it is not begun anew.
    onAfterResponse: (request, reply) => {
      if (request.getMethod() === 'HEAD' && reply.getStatus() >= 500) throw new Error('Not just now.');
    },
    onUploadUrlAvailable: () => {
      sessionStorage.setItem(key, sending.url!);
      begun.resolve();
    },
    onProgress: (sent) => {
      waiting = false;
      tell({ sent, waiting });
    },
    onShouldRetry: (error) => {
      if (refusalOf(error) || signal.aborted) return false;
      waiting = true;
      tell({ sent: 0, waiting });
      return true;
    },
    onSuccess: () => done.resolve(sending.url!.split('/').at(-1)!),
    onError: (error) => done.reject(refusalOf(error as DetailedError) ?? error),
  });

  // Not longer than until the browser says that it is connected again.
  const goOn = () => waiting && void sending.abort().then(() => sending.start());
  const giveUp = () => {
    void sending.abort();
    done.reject(signal.reason);
  };
  window.addEventListener('online', goOn);
  signal.addEventListener('abort', giveUp);
  try {
    const ended = done.promise.catch(() => undefined);
    // Begun, and its place is known: the next may begin.
    await inTurn(async () => {
      if (signal.aborted) return;
      sending.start();
      await Promise.race([begun.promise, ended]);
    });
    return await done.promise;
  } finally {
    window.removeEventListener('online', goOn);
    signal.removeEventListener('abort', giveUp);
    sessionStorage.removeItem(key);
  }
}

function inTurn<T>(work: () => Promise<T>): Promise<T> {
  const mine = lastBegun.then(work, work);
  lastBegun = mine.catch(() => undefined);
  return mine;
}

// What a server says that is out of order for a while is no refusal; nor is a place that is gone, or further on than was thought.
function refusalOf(error: DetailedError): UploadRefused | undefined {
  const reply = error.originalResponse;
  const status = reply?.getStatus() ?? 0;
  if (status < 400 || status >= 500 || status === 409) return undefined;
  return new UploadRefused(sentenceIn(reply!.getBody()) ?? say('shop.file_not_taken'));
}

function sentenceIn(body: string): string | undefined {
  try {
    return (JSON.parse(body) as { detail?: string }).detail;
  } catch {
    return undefined;
  }
}
