import { chord, rateHz } from '../../test/generators/signals';
import { noTags } from '../formats/tags/embedded';
import { analyseAudio } from './analyse-audio';
import { chooseFacts } from './evidence/choose';

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
  const { evidence, measures } = analyseAudio({ sampleRateHz: rateHz, channels: [pad] }, path, noTags),
    facts = chooseFacts(evidence, {
      leadSeconds: measures.leadSeconds,
      lengthSeconds: measures.lengthSeconds,
      readings: measures.detail?.readings,
    });
  expect(facts).toMatchObject({ tempoBpm, bars });
  const told = measures.detail?.bars ?? [];
  expect(told).toHaveLength(bars);
  if (roots)
    expect(told.map(({ chord }) => chord && 'C C#D D#E F F#G G#A A#B '.slice(chord.root * 2, chord.root * 2 + 2).trim())).toEqual(roots);
});
