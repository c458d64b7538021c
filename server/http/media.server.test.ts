import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import type * as Local from '../storage/local-storage';

jest.mock('../storage/storage.server', () => {
  const { LocalStorage } = jest.requireActual<typeof Local>('../storage/local-storage');
  return { storage: new LocalStorage(mkdtempSync(join(tmpdir(), 'media-'))) };
});
import { storage } from '../storage/storage.server';
import { mediaResponse, rangeOf } from './media.server';

const bytes = Buffer.from('0123456789');
let sha256: string;
beforeAll(async () => {
  ({ sha256 } = await storage.put(Readable.from([bytes])));
});
const asked = (headers: Record<string, string> = {}, signal?: AbortSignal) => new Request('http://room/media', { headers, signal });
const header = (response: Response, name: string) => response.headers.get(name);

test('a whole file, with what a cache and a player need to know', async () => {
  const response = await mediaResponse(sha256, asked(), { format: 'flac' });
  expect(response.status).toBe(200);
  expect(await response.text()).toBe('0123456789');
  expect(header(response, 'Content-Type')).toBe('audio/flac');
  expect(header(response, 'Content-Length')).toBe('10');
  expect(header(response, 'Accept-Ranges')).toBe('bytes');
  expect(header(response, 'Cache-Control')).toContain('immutable');
});

test.each([
  ['bytes=2-4', '234', 'bytes 2-4/10'],
  ['bytes=7-', '789', 'bytes 7-9/10'],
  ['bytes=-3', '789', 'bytes 7-9/10'],
  ['bytes=8-99', '89', 'bytes 8-9/10'],
])('the part %s (RFC 9110, 14.1.2)', async (range, text, place) => {
  const response = await mediaResponse(sha256, asked({ Range: range }));
  expect(response.status).toBe(206);
  expect(header(response, 'Content-Range')).toBe(place);
  expect(header(response, 'Content-Length')).toBe(String(text.length));
  expect(await response.text()).toBe(text);
});

test.each(['bytes=10-', 'bytes=5-4'])('%s cannot be, and the size is told (RFC 9110, 15.5.17)', async (range) => {
  const response = await mediaResponse(sha256, asked({ Range: range }));
  expect(response.status).toBe(416);
  expect(header(response, 'Content-Range')).toBe('bytes */10');
});

test.each(['bytes=-', 'bytes=1-2,4-5', 'frames=1-2'])('what is no single range is the whole file: %s', async (range) => {
  const response = await mediaResponse(sha256, asked({ Range: range }));
  expect(response.status).toBe(200);
  expect(await response.text()).toBe('0123456789');
});

test('who has it already is not sent it again', async () => {
  const first = await mediaResponse(sha256, asked());
  await first.text();
  const again = await mediaResponse(sha256, asked({ 'If-None-Match': header(first, 'ETag') ?? '' }));
  expect(again.status).toBe(304);
  expect(await again.text()).toBe('');
});

test('a download is given its name, whatever is in it', async () => {
  const response = await mediaResponse(sha256, asked(), { download: 'Töne "laut"; 100 %.wav' });
  await response.text();
  const disposition = header(response, 'Content-Disposition') ?? '';
  expect(disposition).toMatch(/^attachment; filename\*=UTF-8''[A-Za-z0-9%.'()*_!~-]+$/);
  expect(decodeURIComponent(disposition.split("''")[1])).toBe('Töne "laut"; 100 %.wav');
});

test('a file that is not there, and a name that is no hash', async () => {
  for (const name of ['0'.repeat(64), '../secrets']) {
    const response = await mediaResponse(name, asked());
    expect(response.status).toBe(404);
    expect(await response.text()).toBe('There is no such file.');
  }
});

test('who has hung up is sent nothing', async () => {
  const gone = new AbortController();
  gone.abort();
  const response = await mediaResponse(sha256, asked({}, gone.signal));
  expect(response.status).toBe(499);
  expect(await response.text()).toBe('');
});

// RFC 9110, section 14.1.2
test.each([
  ['bytes=0-99', { start: 0, end: 99 }],
  ['bytes=100-', { start: 100, end: 999 }],
  ['bytes=-10', { start: 990, end: 999 }],
  ['bytes=0-5000', { start: 0, end: 999 }],
  ['bytes=-5000', { start: 0, end: 999 }],
  ['bytes=1000-', 'bad'],
  ['bytes=9-3', 'bad'],
  ['bytes=0-1,5-6', null],
  ['bytes=-', null],
  [null, null],
])('%s of 1000 bytes', (header, wanted) => expect(rangeOf(header, 1000)).toEqual(wanted));
