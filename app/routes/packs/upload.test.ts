import { refusalInWords } from './upload';

test.each([
  ['This import takes no more files.', 'This import takes no more files.'],
  [
    '{"type":"about:blank","title":"That did not work","status":413,"detail":"That is more than is taken here."}',
    'That is more than is taken here.',
  ],
  ['{"ok":false}', '{"ok":false}'],
  ['\n<html><h1>502 Bad Gateway</h1></html>', ''],
  ['', ''],
])('%j says %j', (told, words) => expect(refusalInWords(told)).toBe(words));
