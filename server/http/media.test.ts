import { parseRange } from './media.server';

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
])('%s of 1000 bytes', (header, wanted) => expect(parseRange(header, 1000)).toEqual(wanted));
