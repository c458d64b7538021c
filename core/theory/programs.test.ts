import { families, instrumentById, instruments, type Family } from './instruments';
import { instrumentOfProgram, programOfInstrument } from './programs';

const familyOf = (program: number): Family | undefined => instrumentById(instrumentOfProgram(program))?.family;

test('each of the 128 programs stands for one of our instruments, nothing beyond them does', () => {
  for (let program = 0; program < 128; program++) expect([program, familyOf(program)]).toEqual([program, expect.any(String)]);
  expect([-1, 128, 1000].map(instrumentOfProgram)).toEqual([null, null, null]);
});

test('an instrument is asked for by a program that stands for it', () => {
  const asked = instruments.flatMap(({ id }) => {
    const program = programOfInstrument(id);
    return program === null ? [] : [[id, instrumentOfProgram(program)] as const];
  });
  expect(asked.length).toBeGreaterThan(30);
  for (const [id, found] of asked) expect(found).toBe(id);
  expect(programOfInstrument('kit')).toBeNull();
});

// Names of the programs by RP-003, counted from 1 there.
test.each<[string, number, string]>([
  ['Acoustic Grand Piano', 1, 'piano'],
  ['Electric Piano 2', 6, 'electric-piano'],
  ['Glockenspiel', 10, 'glockenspiel'],
  ['Xylophone', 14, 'xylophone'],
  ['Rock Organ', 19, 'organ'],
  ['Electric Guitar (muted)', 29, 'electric-guitar'],
  ['Acoustic Bass', 33, 'upright-bass'],
  ['Synth Bass 1', 39, 'synth-bass'],
  ['Pizzicato Strings', 46, 'pizzicato'],
  ['Orchestral Harp', 47, 'harp'],
  ['Timpani', 48, 'timpani'],
  ['Choir Aahs', 53, 'choir'],
  ['Tuba', 59, 'tuba'],
  ['Oboe', 69, 'oboe'],
  ['Pan Flute', 76, 'pan-flute'],
  ['Lead 2 (sawtooth)', 82, 'synth-lead'],
  ['Pad 4 (choir)', 92, 'synth-pad'],
  ['Banjo', 106, 'banjos'],
  ['Kalimba', 109, 'kalimba'],
  ['Steel Drums', 115, 'steel-pan'],
  ['Woodblock', 116, 'wood-block'],
])('%s is program %d: %s', (_, counted, id) => expect(instrumentOfProgram(counted - 1)).toBe(id));

// The groups of eight, RP-003: where a whole group is of one family with us, all of it is.
test.each<[number, Family]>([
  [0, 'keys'],
  [3, 'guitar'],
  [4, 'bass'],
  [7, 'brass'],
  [8, 'wind'],
  [9, 'wind'],
  [10, 'synth-lead'],
  [11, 'synth-pad'],
  [12, 'fx'],
  [15, 'fx'],
])('group %d is %s throughout', (group, family) => {
  expect(family in families).toBe(true);
  for (let k = 0; k < 8; k++) expect(familyOf(group * 8 + k)).toBe(family);
});
