import type { Readable } from 'node:stream';

const mostMegabytes = 64;

/** Passes on so much of a sound that somebody recorded or dropped, and no more. @throws {RangeError} in words for who sent it */
export async function* bounded(stream: Readable): AsyncGenerator<Buffer> {
  let bytes = 0;
  for await (const part of stream) {
    bytes += (part as Buffer).length;
    if (bytes > mostMegabytes * 2 ** 20) throw new RangeError(`That is more than ${mostMegabytes} MB.`);
    yield part as Buffer;
  }
}
