import { bytesFromBase64 } from './base64';

test.each([0, 1, 2, 3, 4, 5, 255])('%i bytes come back, with and without the signs that fill up the end', (count) => {
  const bytes = Uint8Array.from({ length: count }, (_, k) => (k * 91 + 7) & 255),
    text = Buffer.from(bytes).toString('base64');
  expect([...bytesFromBase64(text)]).toEqual([...bytes]);
  expect([...bytesFromBase64(text.replace(/=+$/, ''))]).toEqual([...bytes]);
});
