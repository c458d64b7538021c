import { Transform, type Readable, type TransformCallback } from 'node:stream';
import { crc32 } from 'node:zlib';
import yauzl, { type Entry, type ZipFile } from 'yauzl';
import { isDocument, mostDocumentBytes } from '~core/formats/documents';
import { isSystemFile, safePath } from '~core/names/safe-path';
import { extensionOf, formatsByExtension } from '~core/formats/sniff';

/** Limits against archives made to harm (CWE-409). A pack of 5,000 files at 24 bit stays far below. */
export const zipLimits = {
  entries: 50_000,
  totalBytes: 40 * 2 ** 30,
  fileBytes: 2 * 2 ** 30,
  ratio: 200,
  ratioFromBytes: 8 * 2 ** 20,
} as const;

export type ZipItem =
  | {
      readonly kind: 'sound' | 'archive' | 'document';
      readonly path: string;
      readonly bytes: number;
      readonly open: () => Promise<Readable>;
    }
  | { readonly kind: 'failed' | 'left-aside'; readonly path: string; readonly bytes: number; readonly message: string };

/** An archive that is refused as a whole, with a sentence for the person. */
export class ZipError extends Error {}

/**
 * Goes through a zip file, one entry after the other, in flat memory. Entries that cannot be used come with a reason; a
 * hostile or broken archive throws. @throws {ZipError}
 */
export async function* readZip(file: string): AsyncGenerator<ZipItem> {
  const zip = await open(file);
  try {
    if (zip.entryCount > zipLimits.entries)
      throw new ZipError(`The archive holds ${zip.entryCount} entries; up to ${zipLimits.entries} are unpacked.`);
    let total = 0;
    for (let entry = await nextEntry(zip); entry; entry = await nextEntry(zip)) {
      const raw = yauzl.getFileNameLowLevel(entry.generalPurposeBitFlag, entry.fileName as unknown as Buffer, entry.extraFields, false);
      if (raw.endsWith('/')) continue;
      total += entry.uncompressedSize;
      if (total > zipLimits.totalBytes) throw new ZipError('The archive would unpack to more than 40 GB and is refused.');
      if (entry.uncompressedSize > zipLimits.ratioFromBytes && entry.uncompressedSize / Math.max(1, entry.compressedSize) > zipLimits.ratio)
        throw new ZipError(
          `The archive is refused: “${raw}” would grow to ${Math.round(entry.uncompressedSize / 2 ** 20)} MB out of almost nothing.`,
        );
      yield toItem(zip, entry, raw);
    }
  } finally {
    zip.close();
  }
}

function toItem(zip: ZipFile, entry: Entry, raw: string): ZipItem {
  const path = safePath(raw),
    bytes = entry.uncompressedSize;
  if (path === null)
    return {
      kind: 'failed',
      path: raw.slice(0, 300) || '(no name)',
      bytes,
      message: 'The path leads out of the archive; the file was not unpacked.',
    };
  if (isSystemFile(path)) return { kind: 'left-aside', path, bytes, message: 'a file of the operating system' };
  const openEntry = () =>
    new Promise<Readable>((done, fail) =>
      zip.openReadStream(entry, (error, stream) => {
        if (error) return fail(error);
        const checked = stream.pipe(new Checksum(entry.crc32));
        // What is damaged may say so before anybody reads: an error that nobody listens to ends the process.
        checked.on('error', () => {});
        stream.on('error', (inside: Error) => checked.destroy(inside));
        done(checked);
      }),
    );
  if (extensionOf(path) === 'zip' && bytes <= zipLimits.fileBytes && !entry.isEncrypted())
    return { kind: 'archive', path, bytes, open: openEntry };
  if (!(extensionOf(path) in formatsByExtension))
    return !isDocument(path)
      ? { kind: 'left-aside', path, bytes, message: 'not a sound or MIDI file' }
      : entry.isEncrypted()
        ? { kind: 'left-aside', path, bytes, message: 'a document that is encrypted' }
        : bytes > mostDocumentBytes
          ? { kind: 'left-aside', path, bytes, message: 'a document of more than 50 MB' }
          : bytes === 0
            ? { kind: 'left-aside', path, bytes, message: 'an empty document' }
            : { kind: 'document', path, bytes, open: openEntry };
  if (entry.isEncrypted())
    return { kind: 'failed', path, bytes, message: 'The file is encrypted. Unpack it with its password and import the folder.' };
  if (bytes > zipLimits.fileBytes) return { kind: 'failed', path, bytes, message: 'The file is larger than 2 GB.' };
  return { kind: 'sound', path, bytes, open: openEntry };
}

/** Passes bytes through and fails at their end when their CRC-32 (PKWARE APPNOTE 6.3, 4.4.7) is not the one that was said. */
class Checksum extends Transform {
  private found = 0;

  constructor(private readonly said: number) {
    super();
  }
  override _transform(chunk: Buffer, _encoding: BufferEncoding, done: TransformCallback): void {
    this.found = crc32(chunk, this.found);
    done(null, chunk);
  }
  override _flush(done: TransformCallback): void {
    done(this.found === this.said ? null : new Error('the checksum is wrong'));
  }
}

function open(file: string): Promise<ZipFile> {
  return new Promise((done, fail) =>
    yauzl.open(file, { lazyEntries: true, autoClose: false, decodeStrings: false }, (error, zip) =>
      error ? fail(new ZipError('The archive is damaged, or is not a zip file.')) : done(zip),
    ),
  );
}

function nextEntry(zip: ZipFile): Promise<Entry | null> {
  return new Promise((done, fail) => {
    const settle = (finish: () => void) => {
      zip.removeListener('entry', onEntry);
      zip.removeListener('end', onEnd);
      zip.removeListener('error', onError);
      finish();
    };
    const onEntry = (entry: Entry) => settle(() => done(entry));
    const onEnd = () => settle(() => done(null));
    const onError = () => settle(() => fail(new ZipError('The archive is damaged: its table of contents cannot be read to the end.')));
    zip.on('entry', onEntry);
    zip.on('end', onEnd);
    zip.on('error', onError);
    zip.readEntry();
  });
}
