import { Upload } from 'tus-js-client';
import { refusalOf } from '~/ui/ask';

/** A file with its place in what was dropped or chosen. */
export interface Picked {
  readonly path: string;
  readonly file: File;
}

/** Reads what was dropped: files and whole folders, with their paths. */
export async function readDropped(items: DataTransferItemList): Promise<Picked[]> {
  const entries = [...items].map((item) => item.webkitGetAsEntry()).filter((entry): entry is FileSystemEntry => entry !== null);
  return (await Promise.all(entries.map((entry) => walk(entry, '')))).flat();
}

async function walk(entry: FileSystemEntry, above: string): Promise<Picked[]> {
  const path = above ? `${above}/${entry.name}` : entry.name;
  if (entry.isFile) return [{ path, file: await new Promise<File>((done, fail) => (entry as FileSystemFileEntry).file(done, fail)) }];
  const reader = (entry as FileSystemDirectoryEntry).createReader(),
    found: Picked[] = [];
  for (;;) {
    // A reader gives at most a hundred entries a call.
    const some = await new Promise<FileSystemEntry[]>((done, fail) => reader.readEntries(done, fail));
    if (some.length === 0) return found;
    for (const each of some) found.push(...(await walk(each, path)));
  }
}

export const readChosen = (files: FileList): Picked[] => [...files].map((file) => ({ path: file.webkitRelativePath || file.name, file }));

/** Pieces of so many bytes: what a proxy or a break takes away is at most one of them. */
const pieceBytes = 16 * 2 ** 20;
/** A connection that broke is tried again for ten minutes before a person has to. */
const retryDelaysMs = [0, 1000, 3000, 5000, 10_000, 20_000, 30_000, 60_000, 120_000, 180_000, 180_000];

/** Whether the browser could not read the file itself: it was moved, deleted or changed since it was chosen (W3C File API, 7). */
function isUnreadable(error: unknown): boolean {
  const cause = (error as { causingError?: unknown }).causingError ?? error;
  return cause instanceof DOMException && (cause.name === 'NotReadableError' || cause.name === 'NotFoundError');
}

/** What a server says of a refusal: plain words, or a problem that holds them; '' for a page, as a proxy in between sends one. */
export function refusalInWords(told: string): string {
  if (told.trimStart().startsWith('<')) return '';
  try {
    return refusalOf(JSON.parse(told)) ?? told;
  } catch {
    return told;
  }
}

export type SendFile = (batchId: number, picked: Picked, signal: AbortSignal, onSent: (bytes: number) => void) => Promise<void>;

/** Sends one file of a batch. One that was begun before, in this tab or another, goes on where it broke off. */
export const sendFile: SendFile = (batchId, { path, file }, signal, onSent) =>
  new Promise((done, fail) => {
    const upload = new Upload(file, {
      endpoint: '/api/v1/uploads',
      chunkSize: pieceBytes,
      retryDelays: retryDelaysMs,
      removeFingerprintOnSuccess: true,
      metadata: { batchId: String(batchId), path },
      fingerprint: () => Promise.resolve(`garnetfinch ${batchId} ${path} ${file.size} ${file.lastModified}`),
      onProgress: (bytes) => onSent(bytes),
      onSuccess: () => done(),
      // What the server refuses stays refused, and what is gone from the disk stays gone; what did not arrive is tried again.
      onShouldRetry: (error) => {
        if (isUnreadable(error)) return false;
        const status = error.originalResponse?.getStatus() ?? 0;
        return status === 0 || status >= 500 || status === 408 || status === 423;
      },
      onError: (error) => {
        const told = refusalInWords(('originalResponse' in error && error.originalResponse?.getBody()) || '');
        fail(
          new Error(
            told ||
              (isUnreadable(error)
                ? `“${path}” cannot be read from your disk any more.`
                : `“${path}” could not be sent: the connection broke off.`),
          ),
        );
      },
    });
    signal.addEventListener(
      'abort',
      () => {
        void upload.abort(false);
        fail(new DOMException('stopped', 'AbortError'));
      },
      { once: true },
    );
    upload
      .findPreviousUploads()
      .then(([before]) => {
        if (signal.aborted) return fail(new DOMException('stopped', 'AbortError'));
        if (before) upload.resumeFromPreviousUpload(before);
        upload.start();
      })
      .catch(fail);
  });
