import { readSelection } from './selection.server';

const form = (fields: Record<string, string>): FormData => {
  const made = new FormData();
  for (const [name, value] of Object.entries(fields)) made.set(name, value);
  return made;
};

test.each<[Record<string, string>, unknown]>([
  [{ ids: '3,4,5' }, { ids: [3, 4, 5] }],
  [{ ids: '0,7,99999999999' }, { ids: [7] }],
  [{ address: 'q=kick' }, { address: 'q=kick' }],
  [{ address: '' }, { address: '' }],
  [{ ids: '' }, null],
  [{ ids: '1;drop' }, null],
  [{}, null],
])('%j', (fields, expected) => expect(readSelection(form(fields))).toEqual(expected));
