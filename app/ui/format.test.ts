import type { LoopSource } from '../../core/arrangement/fit-request';
import {
  barsText,
  doubtMark,
  instrumentText,
  keyText,
  lengthWords,
  secondsText,
  shiftText,
  signed,
  stretchPercent,
  tempoText,
} from './format';

const loop: LoopSource = {
  loopId: 1,
  kind: 'loop',
  media: 'audio',
  soundSha: '',
  soundFrames: 1,
  tempoBpm: 124,
  beats: 16,
  barBeats: 4,
  key: { tonic: 10, mode: 'minor' },
  pitched: true,
  family: 'bass',
  instrument: 'electric-bass',
  loudnessLufs: null,
  startFrame: 0,
  onsetFrames: [],
};

test('tempo: whole where it is whole, one digit where it is off by a hair', () =>
  expect([tempoText(124), tempoText(124.6), tempoText(123.98), tempoText(null)]).toEqual(['124', '124.6', '124', '—']));
test('unpitched, tuned without a single key and unknown are three answers', () =>
  expect([false, true, null].map((pitched) => keyText({ key: null, pitched })).concat(keyText(loop))).toEqual([
    'unpitched',
    'no single key',
    'unknown',
    'B♭ minor',
  ]));
test('doubt is marked', () => expect([0.99, 0.7, 0.3, null].map(doubtMark)).toEqual(['', '?', '??', '']));
test('what belonging takes (common practice: 124 at 120 is −3.2 %, B♭ minor to D minor is 4 up)', () => {
  expect(stretchPercent(loop, 120)).toBeCloseTo(-3.2, 1);
  expect(stretchPercent({ ...loop, tempoBpm: 70 }, 140)).toBeCloseTo(0, 9);
  expect(stretchPercent({ ...loop, tempoBpm: null }, 120)).toBeNull();
  expect([
    shiftText(loop, { tonic: 2, mode: 'minor' }),
    shiftText(loop, { tonic: 1, mode: 'major' }),
    shiftText(loop, { tonic: 8, mode: 'minor' }),
    shiftText({ ...loop, key: null, pitched: false }, { tonic: 2, mode: 'minor' }),
    shiftText(loop, null),
  ]).toEqual(['up 4', 'fits', 'down 2', null, null]);
});
test.each([
  [{ bars: 4, meter: '4/4', barBeats: 4 }, '4 bars'],
  [{ bars: 1, meter: '4/4', barBeats: 4 }, '1 bar'],
  [{ bars: 8, meter: '3/4', barBeats: 3 }, '8 bars of 3/4'],
  [{ bars: 4, meter: 'unknown', barBeats: 5 }, '4 bars of 5 beats'],
  [{ bars: 2, meter: 'unknown', barBeats: 3.5 }, '2 bars of 3.5 beats'],
  [{ bars: null, meter: null, barBeats: 4 }, '1.2 s'],
])('%p is as long as %s', (row, words) => expect(lengthWords({ ...row, lengthSeconds: 1.23 })).toBe(words));
test('signs, bars, seconds', () => {
  expect([signed(-3.24, 1), signed(2), signed(0, 1)]).toEqual(['−3.2', '+2', '±0.0']);
  expect([barsText(4), barsText(0.5), barsText(null)]).toEqual(['4', '0.5', '—']);
  expect([secondsText(7.742), secondsText(125)]).toEqual(['7.7 s', '2:05']);
});
test('an instrument, its family alone, nothing at all', () =>
  expect([
    instrumentText({ instrument: 'hats', family: 'drums' }),
    instrumentText({ instrument: null, family: 'drums' }),
    instrumentText({ instrument: null, family: null }),
  ]).toEqual(['Hats', 'Drums, which?', 'unknown']));
