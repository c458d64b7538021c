/** A file with its place in what was dropped or chosen. */
export interface Picked {
  readonly path: string;
  readonly file: File;
}

export interface UploadProgress {
  readonly sentBytes: number;
  readonly totalBytes: number;
  readonly file: string;
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

function putFile(batchId: number, picked: Picked, signal: AbortSignal, onSent: (bytes: number) => void): Promise<void> {
  return new Promise((done, fail) => {
    const request = new XMLHttpRequest();
    request.open('PUT', `/api/v1/imports/${batchId}/files?path=${encodeURIComponent(picked.path)}`);
    request.upload.onprogress = (event) => onSent(event.loaded);
    request.onload = () => (request.status < 300 ? done() : fail(new Error(`“${picked.path}” was not taken.`)));
    request.onerror = () => fail(new Error('The connection broke off. Nothing was imported.'));
    request.onabort = () => fail(new DOMException('stopped', 'AbortError'));
    signal.addEventListener('abort', () => request.abort(), { once: true });
    request.send(picked.file);
  });
}

/**
 * Sends files one after the other and starts the import. Stopped or broken off, nothing of it remains.
 * `act` posts to the import's action.
 */
export async function uploadAll(
  act: (fields: Record<string, string>) => Promise<{ batchId?: number; errors?: Record<string, string> }>,
  draft: Record<string, string>,
  picked: readonly Picked[],
  signal: AbortSignal,
  onProgress: (progress: UploadProgress) => void,
): Promise<number> {
  const opened = await act({ intent: 'open', ...draft });
  if (!opened.batchId) throw new Error(Object.values(opened.errors ?? {})[0] ?? 'The import could not be opened.');
  const { batchId } = opened,
    totalBytes = picked.reduce((sum, each) => sum + each.file.size, 0);
  let before = 0;
  try {
    for (const each of picked) {
      onProgress({ sentBytes: before, totalBytes, file: each.path });
      await putFile(batchId, each, signal, (bytes) => onProgress({ sentBytes: before + bytes, totalBytes, file: each.path }));
      before += each.file.size;
    }
    await act({ intent: 'start', batchId: String(batchId) });
    return batchId;
  } catch (error) {
    await act({ intent: 'drop', batchId: String(batchId) }).catch(() => {});
    throw error;
  }
}
