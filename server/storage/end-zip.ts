import type { Readable } from 'node:stream';
import type { ZipFile } from 'yazl';

/** Closes an archive that is made while it is read: what cannot be read of it breaks the stream off, and not the process. @returns the stream */
export function endZip(zip: ZipFile): Readable {
  const stream = zip.outputStream as Readable;
  zip.on('error', (error: Error) => stream.destroy(error));
  zip.end();
  return stream;
}
