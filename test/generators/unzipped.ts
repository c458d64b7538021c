import { buffer } from 'node:stream/consumers';
import { fromBufferPromise } from 'yauzl';

/** The files of an archive by their paths, in its order. */
export async function unzipped(bytes: Buffer): Promise<ReadonlyMap<string, Buffer>> {
  const zip = await fromBufferPromise(bytes, { lazyEntries: true }),
    files = new Map<string, Buffer>();
  for await (const entry of zip.eachEntry()) files.set(entry.fileName, await buffer(await zip.openReadStreamPromise(entry)));
  return files;
}
