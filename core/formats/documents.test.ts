import { coverRank, documentsByExtension, documentType, isDocument } from './documents';

const bytes = (text: string) => Uint8Array.from(text, (letter) => letter.charCodeAt(0));
const heads: Readonly<Record<string, Uint8Array>> = {
  txt: bytes('Free for all'),
  md: bytes('# Hello'),
  pdf: bytes('%PDF-1.7\n'),
  jpg: Uint8Array.of(0xff, 0xd8, 0xff, 0xe0),
  jpeg: Uint8Array.of(0xff, 0xd8, 0xff, 0xdb),
  png: Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a),
  gif: bytes('GIF89a'),
  webp: bytes('RIFF\x10\0\0\0WEBPVP8 '),
};

test('every ending has a head by which it is known', () => {
  for (const ending of Object.keys(documentsByExtension))
    expect(documentType(`art/Cover.${ending.toUpperCase()}`, heads[ending])).toBe(documentsByExtension[ending]);
});
test('what is not what its name says is no document, whatever else it may be', () => {
  for (const ending of ['pdf', 'jpg', 'png', 'gif', 'webp']) expect(documentType(`a.${ending}`, bytes('<svg onload=alert(1)>'))).toBeNull();
  expect(documentType('a.png', heads.jpg)).toBeNull();
  expect(documentType('a.svg', bytes('<svg/>'))).toBeNull();
  expect(documentType('a.txt', new Uint8Array())).toBeNull();
  expect(isDocument('a/b.wav')).toBe(false);
});
test('the picture that is called a cover comes first, then what lies on top', () => {
  const paths = ['inside/scan.png', 'scan.png', 'x/Artwork_front.jpg', 'x/y/Cover.png'];
  expect([...paths].sort((a, b) => coverRank(a) - coverRank(b))).toEqual([
    'x/y/Cover.png',
    'x/Artwork_front.jpg',
    'scan.png',
    'inside/scan.png',
  ]);
});
