import { chord, rateHz } from '../../test/generators/signals';
import { noTags } from '../formats/tags/embedded';
import { analyseAudio } from './analyse-audio';
import { chooseFacts } from './evidence/choose';
import { evidence, type Evidence } from './facts';

/** A chord every two seconds, eight seconds long: four bars at 120, two at 60; no hit tells which. */
const pad = Float32Array.from(
  [
    [57, 60, 64],
    [53, 57, 60],
    [48, 52, 55],
    [55, 59, 62],
  ].flatMap((notes) => [...chord(notes, 2)]),
);

test.each([
  ['Pack/Pad 120 bpm.wav', 120, 4, ['A', 'F', 'C', 'G']],
  ['Pack/Pad 60 bpm.wav', 60, 2, null],
])('%s: its chords are told by the bars that it is read in', (path, tempoBpm, bars, roots) => {
  const { evidence: all, measures } = analyseAudio({ sampleRateHz: rateHz, channels: [pad] }, path, noTags),
    facts = chooseFacts(all, {
      firstBarSeconds: measures.firstBarSeconds,
      lengthSeconds: measures.lengthSeconds,
      readings: measures.detail?.readings,
    });
  expect(facts).toMatchObject({ tempoBpm, bars });
  const told = measures.detail?.bars ?? [];
  expect(told).toHaveLength(bars);
  if (roots)
    expect(told.map(({ chord }) => chord && 'C C#D D#E F F#G G#A A#B '.slice(chord.root * 2, chord.root * 2 + 2).trim())).toEqual(roots);
});

test('bars are told of what goes round, and a person says what does', () => {
  const told = (value: 'loop' | 'one-shot') =>
    analyseAudio({ sampleRateHz: rateHz, channels: [pad] }, '', noTags, null, [
      evidence('kind', 'person', [{ value, probability: 1 }], 'said'),
    ] as Evidence[]).measures.detail?.bars.length;
  expect(told('loop')).toBeGreaterThan(0);
  expect(told('one-shot')).toBe(0);
});
