import { fileNameOf } from './file-name';

test.each([
  ['a/b\\c?', 'a-b-c-'],
  ['Drums…', 'Drums…'],
  ['Ends. ', 'Ends'],
  ['.hidden', 'hidden'],
  ['tab\there', 'tab-here'],
  ['', 'Else'],
  ['...', 'Else'],
  [`${'a'.repeat(119)}. b`, 'a'.repeat(119)],
])('%p is called so that every machine takes it', (name, expected) => expect(fileNameOf(name, 'Else')).toBe(expected));
