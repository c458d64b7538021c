import { Readable } from 'node:stream';
import parseRange from 'range-parser';
import { storage } from '../storage/storage.server';

const types: Readonly<Record<string, string>> = {
  wav: 'audio/wav',
  aiff: 'audio/aiff',
  flac: 'audio/flac',
  ogg: 'audio/ogg',
  mp3: 'audio/mpeg',
  midi: 'audio/midi',
};

/** The one range that is asked for (RFC 9110, 14.1.2). @returns null for none, several, or another unit; 'bad' past the end */
export function rangeOf(header: string | null, bytes: number): { readonly start: number; readonly end: number } | null | 'bad' {
  // A last part longer than the file is all of it; the package (1.3.0) takes it for one past the end.
  const asked = header?.replace(/^bytes=-(\d+)$/, (_, last: string) => `bytes=-${Math.min(Number(last), bytes)}`) ?? null,
    found = asked === null ? -2 : parseRange(bytes, asked, { combine: true });
  if (found === -1) return 'bad';
  return found === -2 || found.type !== 'bytes' || found.length !== 1 ? null : found[0];
}

/** The header by which an answer is kept as a file of a name. */
const keptAs = (name: string): string => `attachment; filename*=UTF-8''${encodeURIComponent(name)}`;

/** Text that is kept as a file. */
export const textFile = (name: string, text: string): Response =>
  new Response(text, { headers: { 'Content-Type': 'text/plain; charset=utf-8', 'Content-Disposition': keptAs(name) } });

/** A stored file with ranges. Its name is its contents' hash, so it may be cached for ever. `download` names the file. */
export async function mediaResponse(
  sha256: string,
  request: Request,
  { format = 'wav', mediaType = null, download = null }: { format?: string; mediaType?: string | null; download?: string | null } = {},
): Promise<Response> {
  const found = await storage.stat(sha256);
  if (!found) return new Response('There is no such file.', { status: 404 });
  const headers = new Headers({
    'Content-Type': mediaType ?? types[format] ?? 'application/octet-stream',
    'Accept-Ranges': 'bytes',
    'Cache-Control': 'private, max-age=31536000, immutable',
    ETag: `"${sha256}"`,
  });
  if (download) headers.set('Content-Disposition', keptAs(download));
  if (request.headers.get('If-None-Match') === `"${sha256}"`) return new Response(null, { status: 304, headers });
  const range = rangeOf(request.headers.get('Range'), found.bytes);
  if (range === 'bad') return new Response(null, { status: 416, headers: { 'Content-Range': `bytes */${found.bytes}` } });
  const part = range ?? { start: 0, end: found.bytes - 1 };
  headers.set('Content-Length', String(Math.max(0, part.end - part.start + 1)));
  if (range) headers.set('Content-Range', `bytes ${part.start}-${part.end}/${found.bytes}`);
  // An abort that came before this line would leave a file open for good.
  if (request.signal.aborted) return new Response(null, { status: 499 });
  const stream = storage.read(sha256, part);
  request.signal.addEventListener('abort', () => stream.destroy(), { once: true });
  return new Response(Readable.toWeb(stream) as ReadableStream, { status: range ? 206 : 200, headers });
}
