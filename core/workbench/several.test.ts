import type { LayersStep } from './layers';
import { severalOf } from './several';
import { settingAfter, type Step } from './steps';

const made = {
    tempoBpm: 120,
    beats: 16,
    barBeats: 4,
    key: null,
    startFrame: 0,
    onsetFrames: [0, 22_050, 22_100, 66_150],
    isCycle: true,
    frames: 352_800,
  },
  layer = { semitones: 0, gainDb: 0, pan: 0, delayBeats: 0, lowCutHz: null },
  layers: LayersStep = { kind: 'layers', layers: [layer, { ...layer, semitones: 12 }] },
  retune: Step = { kind: 'retune', semitones: 1, keepsFormants: false, formantSemitones: 0 };

test('one is what it is', () => expect(severalOf([retune], made, 'one')).toEqual([{ suffix: '', steps: [retune] }]));
test('each layer by itself keeps what was done before it', () =>
  expect(
    severalOf([retune, layers], made, 'layers').map(({ suffix, steps }) => [
      suffix,
      steps.length,
      (steps[1] as LayersStep).layers[0].semitones,
    ]),
  ).toEqual([
    ['1', 2, 0],
    ['2', 2, 12],
  ]));
test('without layers there is one', () => expect(severalOf([retune], made, 'layers')).toHaveLength(1));
test('slices: from hit to hit, none too short to be heard', () => {
  const parts = severalOf([], made, 'slices').map(({ steps }) => steps[0]);
  expect(parts.map((step) => step.kind === 'part' && [step.fromFrame, step.toFrame])).toEqual([
    [0, 22_006],
    [22_056, 66_106],
    [66_106, 352_800],
  ]);
});
test.each([
  [1, 4, 88_200],
  [2, 2, 176_400],
  [3, 1, 264_600],
])('every %d bars: %d of them, each exactly so long', (bars, count, frames) => {
  const all = severalOf([], made, 'bars', bars);
  expect(all).toHaveLength(count);
  for (const { steps } of all) {
    const [step] = steps;
    expect(step.kind === 'part' && step.toFrame - step.fromFrame).toBe(frames);
    expect(settingAfter(steps, made)).toMatchObject({ beats: bars * 4, tempoBpm: 120 });
  }
});
test('of what has no tempo there are no bars', () => expect(severalOf([], { ...made, tempoBpm: null }, 'bars')).toHaveLength(1));
