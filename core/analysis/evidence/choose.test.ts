import { reading } from '../../../test/generators/readings';
import type { FactValues } from '../attributes/registry';
import { evidence, type Evidence } from '../facts';
import { chooseFacts } from './choose';

const loop = evidence('kind', 'sound', [{ value: 'loop', probability: 0.99 }], '');
const tempo = evidence(
  'tempo',
  'sound',
  [
    { value: 120, probability: 0.8 },
    { value: 60, probability: 0.2 },
  ],
  '',
);
/** Four bars at 120 behind 50 ms of silence. */
const measured = {
  firstBarSeconds: 0.05,
  lengthSeconds: 8.05,
  readings: [reading(120, 4, 0.05, 0.7), reading(120, 4, 0, 0.1), reading(60, 2, 0.05, 0.2)],
};
const said = (attribute: 'start' | 'beats' | 'tempo' | 'kind', value: number | FactValues['kind']): Evidence =>
  evidence(attribute, 'person', [{ value: value as never, probability: 1 }], 'corrected by hand');

test('the first bar is where the readings of the tempo hear it, with its rivals and no surer than the tempo', () => {
  const { firstBarSeconds, bars, chosen } = chooseFacts([loop, tempo], measured);
  expect([firstBarSeconds, bars]).toEqual([0.05, 4]);
  expect(chosen.start?.alternatives.map(({ value }) => value)).toEqual([0]);
  expect(chosen.start?.confidence).toBeLessThanOrEqual(chosen.tempo?.confidence ?? 0);
});

test('a first bar that a person moved stands, and the bars that no longer fit are dropped', () => {
  const moved = chooseFacts([loop, tempo, said('start', 0.55)], measured);
  expect([moved.firstBarSeconds, moved.bars, moved.tempoBpm]).toEqual([0.55, 3, 120]);
  expect(moved.chosen.start?.source).toBe('person');
  expect(chooseFacts([loop, tempo, said('start', 0.55), said('beats', 16)], measured).bars).toBe(4);
  // Back by a hair: all four bars still fit.
  expect(chooseFacts([loop, tempo, said('start', 0.04)], measured).bars).toBe(4);
  // Behind the last bar line one bar is left, whatever is said.
  expect(chooseFacts([loop, tempo, said('start', 8)], measured).bars).toBe(1);
});

test('a person’s tempo takes the reading at that tempo; what is no loop has no first bar', () => {
  const half = chooseFacts([loop, tempo, said('tempo', 60)], measured);
  expect([half.tempoBpm, half.bars, half.firstBarSeconds]).toEqual([60, 2, 0.05]);
  expect(chooseFacts([loop, tempo, said('kind', 'one-shot')], measured)).toMatchObject({ tempoBpm: null, bars: null, firstBarSeconds: 0 });
});

test('at a tempo that no reading has, the first bar is still where it is heard', () => {
  const { firstBarSeconds, chosen } = chooseFacts([loop, tempo, said('tempo', 97)], measured);
  expect(firstBarSeconds).toBe(0.05);
  expect(chosen.start?.alternatives.map(({ value }) => value)).toEqual([0]);
});

test('without readings the length gives the beats, and what was measured the start', () => {
  const plain = chooseFacts([loop, tempo], { firstBarSeconds: 0.05, lengthSeconds: 8.05 });
  expect([plain.bars, plain.firstBarSeconds]).toEqual([4, 0.05]);
  expect(plain.chosen.start).toBeUndefined();
});

test('where a rival of another family is likelier by itself, the family is given as the reason', () => {
  const said = evidence(
    'instrument',
    'sound',
    [
      { value: 'electric-bass', probability: 0.4 },
      { value: 'piano', probability: 0.3 },
      { value: 'organ', probability: 0.25 },
    ],
    'colour of the sound',
  );
  const { chosen } = chooseFacts([said], { firstBarSeconds: 0, lengthSeconds: 2 });
  expect(chosen.instrument?.value).toBe('piano');
  expect(chosen.instrument?.alternatives[0].value).toBe('electric-bass');
  // The share that is told is that of all its instruments, as they are shown.
  const keys =
    (chosen.instrument?.confidence ?? 0) + (chosen.instrument?.alternatives.find(({ value }) => value === 'organ')?.probability ?? 0);
  expect(keys).toBeGreaterThan(0.5);
  expect(chosen.instrument?.reasons).toEqual(['colour of the sound', `likeliest family: keys, ${Math.round(100 * keys)} %`]);
});

describe('a meter that is none of the usual ones', () => {
  const inFive = { ...reading(120, 4, 0, 0.7), meter: 'unknown' as const, beats: 20, bars: 4 },
    inFour = { ...reading(120, 5, 0, 0.2), beats: 20 },
    lengths = { firstBarSeconds: 0, lengthSeconds: 10, readings: [inFive, inFour] };

  test('is told as unknown, with the bars in which it comes round, and why', () => {
    const { meter, beats, bars, chosen } = chooseFacts([loop, tempo], lengths);
    expect({ meter, beats, bars }).toEqual({ meter: 'unknown', beats: 20, bars: 4 });
    expect(chosen.meter?.reasons).toEqual(['it comes round every 5 beats']);
    expect(chosen.meter?.confidence).toBeCloseTo(0.7 / 0.9, 6);
    expect(chosen.meter?.alternatives).toEqual([{ value: '4/4', probability: expect.closeTo(0.2 / 0.9, 6) as number }]);
  });
  test('gives way to a person’s word', () => {
    const four = evidence('meter', 'person', [{ value: '4/4', probability: 1 }], 'corrected by hand'),
      five = evidence('meter', 'person', [{ value: '5/4', probability: 1 }], 'corrected by hand');
    expect(chooseFacts([loop, tempo, four], lengths)).toMatchObject({ meter: '4/4', beats: 20, bars: 5 });
    expect(chooseFacts([loop, tempo, five], lengths)).toMatchObject({ meter: '5/4', beats: 20, bars: 4 });
  });
  test('of two lengths of bar the one with the chosen beats counts', () => {
    const inSeven = { ...inFive, beats: 14, bars: 2, probability: 0.3 },
      { beats, bars } = chooseFacts([loop, tempo], { ...lengths, readings: [inSeven, { ...inFive, probability: 0.6 }] });
    expect([beats, bars]).toEqual([20, 4]);
  });
});

test('a phrase has the tempo a person gives it and no other; a one-shot has none', () => {
  expect(chooseFacts([said('kind', 'phrase'), tempo], measured).tempoBpm).toBeNull();
  expect(chooseFacts([said('kind', 'phrase'), tempo, said('tempo', 96)], measured)).toMatchObject({
    tempoBpm: 96,
    beats: null,
    meter: null,
  });
  expect(chooseFacts([said('kind', 'one-shot'), said('tempo', 96)], measured).tempoBpm).toBeNull();
});

describe('an instrument that only the sound speaks of', () => {
  const heard = (probability: number) =>
      evidence(
        'instrument',
        'sound',
        [
          { value: 'hats', probability },
          { value: 'snare', probability: (1 - probability) / 2 },
          { value: 'clap', probability: (1 - probability) / 2 },
        ],
        'colour of the sound',
      ),
    said = evidence('instrument', 'file-name', [{ value: 'hats', probability: 0.6 }], 'name says hats');
  test('is claimed when it is likelier than not', () =>
    expect(chooseFacts([heard(0.8)], measured)).toMatchObject({ instrument: 'hats', family: 'drums' }));
  test('is left open below that; its family stands, and what it may be is kept as a doubt', () => {
    const facts = chooseFacts([heard(0.4)], measured);
    expect(facts).toMatchObject({ instrument: null, family: 'drums' });
    expect(facts.chosen.instrument?.confidence).toBeLessThan(0.5);
  });
  test('is claimed when a name says so too', () => expect(chooseFacts([heard(0.4), said], measured).instrument).toBe('hats'));
});

describe('a fill', () => {
  const fill = evidence('setRole', 'file-name', [{ value: 'fill' as never, probability: 0.95 }], 'its name says so'),
    heard = (seconds: number) => evidence('landing', 'sound', [{ value: seconds, probability: 0.9 }], 'something strikes'),
    landsOf = (...all: Evidence[]) => chooseFacts([loop, tempo, fill, ...all], measured).chosen.landing;
  test('lands where its bars end, from the source that calls it one', () =>
    expect(landsOf()).toMatchObject({ value: 8.05, source: 'file-name', reasons: ['a fill lands where it ends'] }));
  test('what is heard early is one of its hits, and stays as a rival; what strikes at its end is where it lands', () => {
    expect(landsOf(heard(2))).toMatchObject({ value: 8.05, alternatives: [{ value: 2 }] });
    expect(landsOf(heard(7.8))?.value).toBe(7.8);
  });
  test('a person’s word stands', () =>
    expect(landsOf(evidence('landing', 'person', [{ value: 3, probability: 1 }], 'by hand'))).toMatchObject({
      value: 3,
      source: 'person',
    }));
  test('what is no fill lands nowhere by itself', () => expect(chooseFacts([loop, tempo], measured).chosen.landing).toBeUndefined());
});
