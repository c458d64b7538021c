import { plainText } from './plain-text';

const bytes = (...values: number[]) => Uint8Array.from(values);

test.each([
  ['UTF-8', bytes(0x46, 0xc3, 0xbc, 0x72), 'Für'],
  ['UTF-8 with its mark', bytes(0xef, 0xbb, 0xbf, 0x41), 'A'],
  ['UTF-16, low byte first', bytes(0xff, 0xfe, 0x46, 0, 0xfc, 0, 0x3e, 0xd8, 0x41, 0xdd), 'Fü🥁'],
  ['UTF-16, high byte first', bytes(0xfe, 0xff, 0, 0x46, 0, 0xfc), 'Fü'],
  ['Latin-1', bytes(0x46, 0xfc, 0x72, 0x20, 0xa9), 'Für ©'],
  ['percent signs', bytes(0x31, 0x30, 0x30, 0x25, 0x41), '100%A'],
  ['NUL and line ends of other systems', bytes(0x61, 0, 0x62, 0x0d, 0x0a, 0x63), 'ab\nc'],
  ['nothing', bytes(), ''],
  ['half a letter', bytes(0xff, 0xfe, 0x46), ''],
])('%s', (_, given, expected) => expect(plainText(given)).toBe(expected));
