import { Readable } from 'node:stream';
import { storage } from '../storage/storage.server';

const types: Readonly<Record<string, string>> = {
  wav: 'audio/wav',
  aiff: 'audio/aiff',
  flac: 'audio/flac',
  ogg: 'audio/ogg',
  mp3: 'audio/mpeg',
  midi: 'audio/midi',
};

/** Reads `bytes=a-b`, `bytes=a-`, `bytes=-n` (RFC 9110, 14.1.2). @returns null for no or several ranges, 'bad' past the end */
export function parseRange(header: string | null, bytes: number): { start: number; end: number } | null | 'bad' {
  const match = /^bytes=(\d*)-(\d*)$/.exec(header ?? '');
  if (!match || (match[1] === '' && match[2] === '')) return null;
  const start = match[1] === '' ? Math.max(0, bytes - Number(match[2])) : Number(match[1]);
  const end = match[1] === '' || match[2] === '' ? bytes - 1 : Math.min(bytes - 1, Number(match[2]));
  return start > end || start >= bytes ? 'bad' : { start, end };
}

/** A stored file with ranges. Its name is its contents' hash, so it may be cached for ever. `download` names the file. */
export async function mediaResponse(
  sha256: string,
  request: Request,
  { format = 'wav', download = null }: { format?: string; download?: string | null } = {},
): Promise<Response> {
  const found = await storage.stat(sha256);
  if (!found) return new Response('There is no such file.', { status: 404 });
  const headers = new Headers({
    'Content-Type': types[format] ?? 'application/octet-stream',
    'Accept-Ranges': 'bytes',
    'Cache-Control': 'private, max-age=31536000, immutable',
    ETag: `"${sha256}"`,
  });
  if (download) headers.set('Content-Disposition', `attachment; filename*=UTF-8''${encodeURIComponent(download)}`);
  if (request.headers.get('If-None-Match') === `"${sha256}"`) return new Response(null, { status: 304, headers });
  const range = parseRange(request.headers.get('Range'), found.bytes);
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
