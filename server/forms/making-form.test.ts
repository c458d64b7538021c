import type { HowAsked, MakingsAsked, Sheet } from '~contracts/making';
import { nothingCleaned } from '~core/workbench/clean';
import type { Step } from '~core/workbench/steps';
import { readMakings } from './making-form';

const sheet: Sheet = {
    name: 'Engine bars',
    kind: 'loop',
    setName: 'Engine',
    setRole: 'full',
    instrument: 'piano',
    genre: ['techno'],
    character: [],
    tags: ['ferry'],
    landingSeconds: null,
    chords: '',
  },
  part: HowAsked = {
    kind: 'part',
    projectId: 3,
    as: 'sound',
    asked: { trackIds: ['a-1'], clipIds: null, fromBeat: 8, toBeat: 16, tail: 'wrap' },
  },
  setting = {
    tempoBpm: 120,
    beats: 8,
    barBeats: 4,
    key: { tonic: 2, mode: 'minor' as const },
    startFrame: 0,
    onsetFrames: [0, 22_050.5],
    isCycle: true,
  },
  steps: readonly Step[] = [
    { kind: 'part', fromFrame: 0, toFrame: 88_200, beats: 4, wrapsTail: true },
    { ...nothingCleaned, normalise: { by: 'peak', toDb: -1 } },
    { kind: 'grid', strength: 0.5, stepsPerBeat: 4, swing: 0.6, byHand: [{ fromFrame: 3, toFrame: 9 }], keeps: 'tones' },
    { kind: 'retune', semitones: -3.25, keepsFormants: true, formantSemitones: 2 },
    { kind: 'line', strength: 1, straightness: 0, key: null, moves: { 3: -2 }, formantSemitones: 0 },
    { kind: 'slices', stepsPerBeat: 4, hits: [{ step: 3, slice: 1, velocity: 0.4, reverse: true }] },
    { kind: 'layers', layers: [{ semitones: 12, gainDb: -6, pan: 1, delayBeats: 0.25, lowCutHz: 80 }] },
  ],
  pack = { packId: null, name: 'Ours', vendor: '', licence: '' },
  asked = (changes: Partial<MakingsAsked> = {}): MakingsAsked => ({ pack, makings: [{ sheet, how: part }], ...changes }),
  onBench = (step: unknown): unknown =>
    asked({ makings: [{ sheet, how: { kind: 'steps', as: 'sound', loopId: 4, setting, steps: [step as Step] } }] });

test('what is asked for passes as it is', async () => expect(await readMakings(asked())).toEqual({ ok: true, asked: asked() }));
test.each(steps.map((step) => [step.kind, step] as const))('a step %s passes as it is', async (_, step) =>
  expect(await readMakings(onBench(step))).toEqual({ ok: true, asked: onBench(step) }),
);

test.each<[string, unknown, RegExp]>([
  ['no name', asked({ makings: [{ sheet: { ...sheet, name: '' }, how: part }] }), /called/],
  ['no pack', asked({ pack: { ...pack, name: '' } }), /pack/],
  ['two of one name', asked({ makings: [1, 2].map(() => ({ sheet, how: part })) }), /same name/],
  ['nothing', asked({ makings: [] }), /nothing to make/],
  ['no such instrument', asked({ makings: [{ sheet: { ...sheet, instrument: 'kazoo of doom' }, how: part }] }), /instrument/],
])('%s is told in words', async (_, body, words) => {
  const read = await readMakings(body);
  expect(read.ok ? '' : read.message).toMatch(words);
});

test.each<[string, unknown]>([
  ['a foreign field', { ...asked(), force: true }],
  ['no step that is known', onBench({ kind: 'explode' })],
  ['what every object has', onBench({ kind: 'constructor' })],
  ['too far a shift', onBench({ kind: 'retune', semitones: 99, keepsFormants: true, formantSemitones: 0 })],
  [
    'too many layers',
    onBench({
      kind: 'layers',
      layers: Array.from({ length: 13 }, () => ({ semitones: 0, gainDb: 0, pan: 0, delayBeats: 0, lowCutHz: null })),
    }),
  ],
  ['a number as text', onBench({ ...nothingCleaned, lowCutHz: '80' })],
  ['moves that are none', onBench({ kind: 'line', strength: 1, straightness: 0, key: null, moves: { x: 1 }, formantSemitones: 0 })],
  ['a part that ends before it begins', asked({ makings: [{ sheet, how: { ...part, asked: { ...part.asked, toBeat: 4 } } as HowAsked }] })],
  [
    'an id of another shape',
    asked({ makings: [{ sheet, how: { ...part, asked: { ...part.asked, trackIds: ["a'; drop"] } } as HowAsked }] }),
  ],
  ['no object', 3],
  ['nobody', null],
])('%s does not pass', async (_, body) => expect((await readMakings(body)).ok).toBe(false));
