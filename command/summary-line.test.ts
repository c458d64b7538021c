import { summaryLine } from './summary-line';

type Line = Parameters<typeof summaryLine>[0];
const line = (changes: object): string =>
  summaryLine({
    file: 'a.wav',
    kind: 'loop',
    tempoBpm: 118,
    tempoConfidence: 0.934,
    bars: 4,
    meter: '4/4',
    keyName: 'D minor',
    keyConfidence: 0.8,
    pitched: true,
    instrument: 'piano',
    family: 'keys',
    familyConfidence: 0.9,
    ...changes,
  } as unknown as Line);

test('a loop in one line, with how sure', () =>
  expect(line({})).toBe('a.wav: loop · 118.0 bpm (93 %) · 4 bars of 4/4 · D minor (80 %) · piano, keys (90 %)'));
test.each([
  ['one bar', { bars: 1 }, '1 bar of 4/4'],
  ['a meter that is none of the usual ones', { meter: 'unknown' }, '4 bars of an unknown meter'],
  ['no pitch', { keyName: null, pitched: false }, 'unpitched'],
  ['no single key', { keyName: null }, 'no single key'],
  ['nothing said of pitch', { keyName: null, pitched: null }, 'no key'],
  ['no instrument', { instrument: null, family: null, familyConfidence: null }, 'unknown, no family'],
])('%s', (_, changes, words) => expect(line(changes)).toContain(words));
test('what goes not round has neither tempo nor bars', () =>
  expect(line({ kind: 'one-shot', tempoBpm: null, tempoConfidence: null, bars: null, meter: null })).toBe(
    'a.wav: one-shot · D minor (80 %) · piano, keys (90 %)',
  ));
test('what can’t be read says why', () => expect(summaryLine({ file: 'b.wav', error: 'no sound in it' })).toBe('b.wav: no sound in it'));
