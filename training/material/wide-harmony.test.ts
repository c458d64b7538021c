import { Chance } from './chance';
import { coloured } from './harmony';
import { composeOver } from './compose';
import { keptOutKinds, makeWideHarmony, wideKinds, type WideKind } from './wide-harmony';

const made = (kinds: readonly WideKind[], bars = 4, count = 200) =>
  Array.from({ length: count }, (_, seed) => makeWideHarmony(kinds, new Chance(seed), bars, 4));
const roots = ({ chords, key }: ReturnType<typeof makeWideHarmony>): string =>
  chords.map(({ root }) => (root - key.tonic + 12) % 12).join(' ');

test.each([...wideKinds, ...keptOutKinds])('%s: chords fill their bars, and the tonic has a chord in nine of ten', (kind) => {
  const list = made([kind]);
  for (const { chords } of list) {
    expect(chords[0].startBeat).toBe(0);
    expect(chords.reduce((beat, { lengthBeats }) => beat + lengthBeats, 0)).toBeCloseTo(16, 9);
  }
  expect(list.filter(({ chords, key }) => chords.some(({ root }) => root === key.tonic)).length).toBeGreaterThan(0.9 * list.length);
});

test('walked harmony is no short list: two hundred pieces have far over a hundred progressions', () => {
  expect(new Set(made(['walked']).map(roots)).size).toBeGreaterThan(120);
  expect(new Set(made(['walked']).map(roots)).size).toBeGreaterThan(2 * coloured.major.length);
});

test('two chords in turns are two, a closing piece ends at home, a falling one falls by fifths or thirds', () => {
  for (const harmony of made(['pendulum'])) expect(new Set(harmony.chords.map(({ root }) => root)).size).toBeLessThanOrEqual(2);
  for (const { chords, key } of made(['closing'], 8).filter(({ chords }) => chords.length === 8))
    expect(chords.some(({ root }) => root === key.tonic)).toBe(true);
  const steps = made(['falling'], 8).map(({ chords }) => (chords[1].root - chords[0].root + 12) % 12);
  expect(steps.filter((step) => [5, 6, 8, 9].includes(step)).length).toBeGreaterThan(0.8 * steps.length);
});

test('over a pedal the lowest note stays; a tune that spares its tonic plays it less than others', () => {
  for (let seed = 0; seed < 40; seed++) {
    const harmony = makeWideHarmony(['pedal'], new Chance(seed), 4, 4),
      piece = composeOver(seed, () => harmony),
      bass = piece.parts.find(({ instrument }) => instrument.endsWith('bass'));
    if (bass && bass.notes.length > 4) {
      const onPedal = bass.notes.filter(({ pitch }) => pitch % 12 === harmony.pedal).length;
      expect(onPedal / bass.notes.length).toBeGreaterThan(0.3);
    }
  }
  const tonicShare = (spares: boolean) => {
    let tonic = 0,
      all = 0;
    for (let seed = 0; seed < 200; seed++) {
      const piece = composeOver(seed, (chance, bars, barQuarters) => {
        const { sparesTonic: _, ...harmony } = makeWideHarmony(['walked'], chance, bars, barQuarters);
        return { ...harmony, sparesTonic: spares };
      });
      if (!['flute', 'violin', 'cello', 'trumpet', 'clarinet', 'trombone'].includes(piece.instrument)) continue;
      for (const { pitch } of piece.parts[0].notes) {
        all++;
        tonic += Number(pitch % 12 === piece.key?.tonic);
      }
    }
    return tonic / all;
  };
  expect(tonicShare(true)).toBeLessThan(0.6 * tonicShare(false));
});

test('is the same for the same seed', () => expect(made(wideKinds, 4, 10)).toEqual(made(wideKinds, 4, 10)));
