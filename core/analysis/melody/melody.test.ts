import { chord, hits, rateHz } from '../../../test/generators/signals';
import { noteToHz } from '../../units/pitch';
import { detectOnsets } from '../onsets/onsets';
import { notesOfTrack, type HeardNote } from './melody';
import { singleVoiceShare, trackPitch, trackSingleVoice } from './pitch-track';

type Score = readonly (readonly [startSeconds: number, lengthSeconds: number, pitch: number])[];

/** A voice of six falling harmonics that plays `score`; `bend` moves its pitch by semitones over time. */
function play(score: Score, seconds: number, bend: (at: number) => number = () => 0): Float32Array {
  const out = new Float32Array(Math.round(seconds * rateHz));
  for (const [start, length, pitch] of score) {
    let phase = 0;
    const from = Math.round(start * rateHz);
    for (let i = 0; i < length * rateHz && from + i < out.length; i++) {
      phase += (2 * Math.PI * noteToHz(pitch + bend((from + i) / rateHz))) / rateHz;
      const envelope = Math.min(1, i / 200) * Math.min(1, (length * rateHz - i) / 400);
      for (let harmonic = 1; harmonic <= 6; harmonic++) out[from + i] += ((0.3 * envelope) / harmonic) * Math.sin(phase * harmonic);
    }
  }
  return out;
}
const hear = (sound: Float32Array, tuningCents = 0): HeardNote[] =>
  notesOfTrack(
    trackPitch(sound, rateHz),
    detectOnsets([sound], rateHz).map((frame) => frame / rateHz),
    tuningCents,
  );
const tune: Score = [
  [0, 0.45, 60],
  [0.5, 0.2, 64],
  [0.75, 0.2, 64],
  [1, 0.95, 67],
  [2, 0.45, 72],
  [2.5, 0.45, 59],
];

test('a tune comes back as its notes: pitch, start within 12 ms, length within 60 ms', () => {
  const notes = hear(play(tune, 3));
  expect(notes.map(({ pitch }) => pitch)).toEqual(tune.map(([, , pitch]) => pitch));
  notes.forEach(({ startSeconds, lengthSeconds, cents }, k) => {
    expect(Math.abs(startSeconds - tune[k][0])).toBeLessThan(0.012);
    expect(Math.abs(lengthSeconds - tune[k][1])).toBeLessThan(0.06);
    expect(Math.abs(cents)).toBeLessThan(6);
  });
});
test.each([28, 40, 52, 69, 84, 93])('MIDI note %i is heard in its own octave', (pitch) =>
  expect(hear(play([[0.1, 1, pitch]], 1.3)).map((note) => note.pitch)).toEqual([pitch]),
);
test('a vibrato of half a semitone is one note', () =>
  expect(hear(play([[0, 2, 69]], 2.1, (at) => 0.5 * Math.sin(2 * Math.PI * 5.5 * at))).map(({ pitch }) => pitch)).toEqual([69]));
test('a voice 30 cents sharp is read against its own tuning', () => {
  const [note] = hear(
    play([[0, 1, 60]], 1.1, () => 0.3),
    30,
  );
  expect(note.pitch).toBe(60);
  expect(Math.abs(note.cents)).toBeLessThan(6);
});
test('the quiet is not filled with notes', () => {
  expect(hear(new Float32Array(rateHz))).toEqual([]);
  expect(hear(new Float32Array(3))).toEqual([]);
});
test('a single voice is told from chords and from drums', () => {
  const share = (sound: Float32Array) => singleVoiceShare(trackPitch(sound, rateHz));
  expect(share(play(tune, 3))).toBeGreaterThan(0.85);
  expect(share(chord([60, 64, 67, 71], 2))).toBeLessThan(0.5);
  expect(share(hits([0, 0.5, 1, 1.5], 2))).toBeLessThan(0.3);
  expect(trackSingleVoice(play(tune, 3), rateHz)).not.toBeNull();
  expect(trackSingleVoice(chord([60, 64, 67, 71], 2), rateHz)).toBeNull();
});
