import { reactive, type InjectionKey } from 'vue';
import type { Progress } from '../shared/upload';

/** A file as the form shows it. */
export interface ShownFile {
  name: string;
  size: string;
  /** The address of a small picture of it; "" for none. */
  small: string;
}

/** Where files are taken: a page that takes them provides it. */
export interface FileKeeper {
  /** Uploads a file for a field, and gives its id; throws an error with a sentence where it is refused. */
  take: (file: File, field: string, tell: (progress: Progress) => void, signal: AbortSignal) => Promise<string>;
  /** What a file is that was uploaded before; undefined where it is gone. */
  find: (id: string) => Promise<ShownFile | undefined>;
  /** Throws one away that nobody needs. */
  drop: (id: string) => Promise<void>;
}

export const filesKey: InjectionKey<FileKeeper> = Symbol('files');

/** A file on its way. It goes on while its control is away, and is found again by its id. */
export interface Upload {
  file: File;
  sent: number;
  waiting: boolean;
  /** The sentence of a refusal; "" for none. */
  refused: string;
  /** The id once it is there; "" until then. */
  done: string;
  stop: AbortController;
}

/** What the ids of uploads begin with that are not done; evaluate knows them. */
export const UNDER_WAY = 'under-way-';

/** The uploads of this page, by the id that stands for each in the answers until it is done. */
export const uploads = reactive(new Map<string, Upload>());

/** What is known of files that are there, by their ids. */
export const known = reactive(new Map<string, ShownFile>());

let count = 0;

/** Begins an upload, or begins it once more under its id. */
export function begin(keeper: FileKeeper, file: File, field: string, id = `${UNDER_WAY}${++count}`): string {
  uploads.set(id, { file, sent: 0, waiting: false, refused: '', done: '', stop: new AbortController() });
  const upload = uploads.get(id)!;
  keeper
    .take(file, field, (progress) => Object.assign(upload, progress), upload.stop.signal)
    .then(
      (done) => (upload.done = done),
      (error: unknown) => {
        if (!upload.stop.signal.aborted) upload.refused = error instanceof Error ? error.message : String(error);
      },
    );
  return id;
}
