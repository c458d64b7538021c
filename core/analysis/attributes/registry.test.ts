import { facets } from '../../search/facets';
import { attributeRow, attributes, doubtAttributes, isAttribute, registry, type AttributeName } from './registry';

/** Values that loops have, a few of each attribute; one that is added says some here too. */
const samples: Readonly<Record<AttributeName, readonly unknown[]>> = {
  kind: ['loop', 'one-shot', 'phrase', 'full-mix'],
  tempo: [20, 120, 124.58, 400],
  beats: [1, 16, 14.5, 512],
  meter: ['4/4', '6/8', '5/4'],
  start: [0, 0.0321, 12.5],
  key: [{ tonic: 2, mode: 'minor' }, { tonic: 11, mode: 'major' }, 'unpitched', 'no-single-key'],
  instrument: ['kick', 'upright-bass'],
  setRole: ['fill', 'variation'],
  landing: [0, 1.25, 3599],
  character: [[], ['dark'], ['dry', 'tight', 'warm']],
  genre: [[], ['dub'], ['house', 'drum-and-bass']],
};

describe.each(attributes)('%s', (name) => {
  const row = attributeRow(name),
    values = samples[name] as readonly never[];
  test('what is written reads back, as the same, and is said in words', () => {
    expect(values.length).toBeGreaterThan(0);
    for (const value of values) {
      const back = row.fromText(row.toText(value));
      expect(back).not.toBeNull();
      expect(row.same(back as never, value)).toBe(true);
      expect(row.inWords(value, 4)).toMatch(/\S/);
      expect(row.inWords(value, 4)).not.toMatch(/undefined|NaN|\[object/);
    }
  });
  test('every choice is a value of it', () => {
    for (const { value, label } of row.choices ?? []) {
      expect(row.fromText(value)).not.toBeNull();
      expect(label).toMatch(/\S/);
    }
    // What has no choices is typed, and its field says so.
    if (row.choices === null) expect(row.field.label).toMatch(/\S/);
  });
  test.each(['', ' ', 'nonsense §', '__proto__', '-5', 'constructor', '1e999'])('%p is no value', (text) =>
    expect(row.fromText(text)).toBeNull(),
  );
  test('every choice of a facet is taken from an address and said in words', () => {
    for (const facet of row.facets)
      for (const { value } of facet.choices ?? []) {
        expect(facet.accepts(value)).toBe(true);
        expect(facet.inWords(value)).toMatch(/\S/);
      }
    for (const facet of row.facets) for (const text of ['', '__proto__', 'constructor', '-1']) expect(facet.accepts(text)).toBe(false);
  });
  test('what it unsays is there', () => expect(row.unsays.every(isAttribute)).toBe(true));
});

test('names of facets and of columns are each there once', () => {
  const names = facets.map(({ name }) => name),
    columns = Object.values(registry).flatMap((row) => row.columns.map(({ name }) => name as string));
  expect(new Set(names).size).toBe(names.length);
  expect(new Set(columns).size).toBe(columns.length);
});
test('what is asked of ears is what is marked so', () =>
  expect([...doubtAttributes].sort()).toEqual(attributes.filter((name) => attributeRow(name).isDoubted).sort()));
