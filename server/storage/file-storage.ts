import type { Readable } from 'node:stream';

export interface StoredFile {
  readonly sha256: string;
  readonly bytes: number;
}

/** By which a staged file is known, also to another thread or process that shares the store. */
export interface StagedName extends StoredFile {
  readonly stagedId: string;
}

/** What has come in whole and is not in its place yet. */
export interface StagedFile extends StagedName {
  /** Puts it into its place; a file of the same contents that is there is taken over. */
  settle(): Promise<void>;
  discard(): Promise<void>;
}

/** Files by the SHA-256 of their contents. An object store can stand behind the same functions. */
export interface FileStorage {
  /** Streams to the store with flat memory; a failed stream leaves nothing. */
  put(source: Readable): Promise<StoredFile>;
  /** The same in two steps, so that rows can be written with it. */
  stage(source: Readable): Promise<StagedFile>;
  /** Goes on with what another thread has staged. */
  resume(staged: StagedName): StagedFile;
  /** All there are, in no order. */
  list(): AsyncGenerator<StoredFile & { readonly changedAt: Date }>;
  /** Throws away what was left behind half received, unless it was touched since. */
  sweepStaged(before: Date): Promise<void>;
  /** Bytes `start` to `end`, both included; the whole file without them. */
  read(sha256: string, range?: { readonly start: number; readonly end: number }): Readable;
  /** Size, or null when there is no such file. */
  stat(sha256: string): Promise<{ readonly bytes: number } | null>;
  delete(sha256: string): Promise<void>;
  /**
   * Lends a file on this machine's disk to what can work on files only; it is there until `use` has ended, and is not to be written to.
   * @throws {Error} with code ENOENT when there is no such file
   */
  withLocalFile<T>(sha256: string, use: (path: string) => Promise<T>): Promise<T>;
}

/** What a name of a stored file looks like. */
export const isFileHash = (text: string): boolean => /^[0-9a-f]{64}$/.test(text);
