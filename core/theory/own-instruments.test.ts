import { attributeRow } from '../analysis/attributes/registry';
import { readName } from '../names/parse-name';
import { allInstruments, instrumentById, ownInstruments, playedAs, setOwnInstruments, soundOf } from './instruments';
import { programOfInstrument } from './programs';

const hull = { id: 'own-hull-plate', label: 'Hull plate', soundsAs: 'woodblock', words: ['Rumpf-Blech', 'hull'] };
afterEach(() => setOwnInstruments([]));

test('one of the group’s own has a name, a family and a sound of the common ones, and goes when it is told no more', () => {
  setOwnInstruments([hull]);
  expect(instrumentById(hull.id)).toMatchObject({ label: 'Hull plate', family: 'percussion' });
  expect([soundOf(hull.id), playedAs(hull.id), playedAs('crash'), playedAs(null)]).toEqual(['woodblock', 'woodblock', 'crash', null]);
  expect(programOfInstrument(hull.id)).toBe(programOfInstrument('woodblock'));
  expect(allInstruments()[0].id).toBe(hull.id);
  setOwnInstruments([{ ...hull, archived: true }]);
  expect([instrumentById(hull.id)?.label, allInstruments().some(({ id }) => id === hull.id)]).toEqual(['Hull plate', false]);
  setOwnInstruments([]);
  expect(instrumentById(hull.id)).toBeNull();
  expect(ownInstruments()).toEqual([]);
});
test.each([
  ['Hull Plate 03 120', 'own-hull-plate'],
  ['rumpfblech_hit', 'own-hull-plate'],
  ['Hulls deep', 'own-hull-plate'],
  ['Woodblock 03', 'wood-block'],
  ['Hullabaloo', null],
])('%s is %s', (name, id) => {
  setOwnInstruments([hull]);
  expect(readName(name).instrument?.id ?? null).toBe(id);
});
test('it can be said of a loop, and is among the choices, only while it is known', () => {
  const row = attributeRow('instrument');
  expect(row.fromText(hull.id)).toBeNull();
  setOwnInstruments([hull]);
  expect(row.fromText(hull.id)).toBe(hull.id);
  expect(row.choices?.[0]).toEqual({ value: hull.id, label: 'Hull plate' });
  expect(row.facets.find(({ name }) => name === 'instrument')?.accepts(hull.id)).toBe(true);
});
test('what sounds like nothing that is known is left out, and signs in a name are no patterns', () => {
  setOwnInstruments([
    { ...hull, soundsAs: 'nothing' },
    { id: 'own-x', label: 'A+ (b)', soundsAs: 'kick', words: ['.*'] },
  ]);
  expect(instrumentById(hull.id)).toBeNull();
  expect(readName('Anything at all').instrument?.id).not.toBe('own-x');
});
