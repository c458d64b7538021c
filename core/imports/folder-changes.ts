/** A file as a folder has it now. */
export interface SeenFile {
  /** From the folder on, `/` between. */
  readonly path: string;
  readonly bytes: number;
  readonly modifiedMs: number;
}

/** The same as it was when it was taken in. */
export interface KnownFile extends SeenFile {
  readonly fileSha256: string;
  readonly vendorPath: string;
}

export interface FolderChanges {
  /** To be read: new ones, and known ones whose contents may be others. */
  readonly toRead: readonly SeenFile[];
  /** Known ones that are there no more. What they brought in stays in the library. */
  readonly gone: readonly KnownFile[];
  /** Still being written, as far as one can tell: left for the next look. */
  readonly growing: number;
}

/** A file that changed within so long is being written, perhaps. */
const settledForMs = 2000;

/** What has to be done after a look at a folder. @param nowMs by the clock that stamps the files */
export function folderChanges(seen: readonly SeenFile[], known: readonly KnownFile[], nowMs: number): FolderChanges {
  const knownByPath = new Map(known.map((file) => [file.path, file])),
    seenPaths = new Set(seen.map(({ path }) => path)),
    changed = seen.filter(({ path, bytes, modifiedMs }) => {
      const before = knownByPath.get(path);
      return before?.bytes !== bytes || before.modifiedMs !== modifiedMs;
    }),
    toRead = changed.filter(({ modifiedMs, bytes }) => bytes > 0 && Math.abs(nowMs - modifiedMs) >= settledForMs);
  return { toRead, gone: known.filter(({ path }) => !seenPaths.has(path)), growing: changed.length - toRead.length };
}
