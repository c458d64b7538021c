import { sine } from '../../test/generators/signals';
import { trackPitch } from '../analysis/melody/pitch-track';
import { fitLoop, type LoopSource } from '../arrangement/fit-request';
import { noteMovesFor } from '../arrangement/harmony/note-moves';
import { emptyProject } from '../arrangement/tree';
import { loadTransforms } from '../dsp/real-fft';
import { writeWav } from '../formats/wav/write';
import { parseKey } from '../theory/key';
import { noteToHz } from '../units/pitch';
import { renderFitted } from './render-fitted';

const rateHz = 44_100;
beforeAll(loadTransforms);

test('a line goes to the chord note by note: what is of the chord stays, what is not is moved, nothing else changes', () => {
  // C4, E4, F4, A4, half a second each, with three overtones: over C the F goes to E, the A to G.
  const line = [60, 64, 65, 69],
    each = line.map((note) => {
      const parts = [1, 2, 3].map((harmonic) => sine(noteToHz(note) * harmonic, 0.5, 0.3 / harmonic));
      return parts[0].map((value, i) => (value + parts[1][i] + parts[2][i]) * Math.min(1, i / 400, (parts[0].length - i) / 400));
    }),
    sound = Float32Array.from({ length: each[0].length * 4 }, (_, i) => each[Math.floor(i / each[0].length)][i % each[0].length]),
    source: LoopSource = {
      loopId: 1,
      kind: 'loop',
      media: 'audio',
      soundSha: 'line',
      soundFrames: sound.length,
      tempoBpm: 120,
      beats: 4,
      key: null,
      pitched: true,
      family: 'voice',
      instrument: 'voice',
      loudnessLufs: null,
      startFrame: 0,
      onsetFrames: [0, 22_050, 44_100, 66_150],
      barBeats: 4,
      harmony: {
        chords: [],
        isStated: false,
        bars: [],
        line: line.map((pitch, k) => ({ startSeconds: k * 0.5, lengthSeconds: 0.5, pitch, cents: 0, strength: 1 })),
      },
    },
    project = { ...emptyProject('P', 120, parseKey('C')), chords: [{ startBeat: 0, symbol: 'C' }] },
    noteMoves = noteMovesFor(source, { startBeat: 0 }, project, 0) ?? [],
    { request } = fitLoop(source, { tempoBpm: 120, key: null, followTempo: true, followKey: true, noteMoves }),
    [made] = renderFitted(request, writeWav({ sampleRateHz: rateHz, channels: [sound] }, 'float32')),
    { notes, hopSeconds } = trackPitch(made, rateHz),
    heard = line.map((_, k) => {
      const within = [...notes]
        .slice(Math.round((k * 0.5 + 0.15) / hopSeconds), Math.round((k * 0.5 + 0.4) / hopSeconds))
        .sort((a, b) => a - b);
      return within[Math.floor(within.length / 2)];
    });
  expect(made).toHaveLength(sound.length);
  expect(heard.map(Math.round)).toEqual([60, 64, 64, 67]);
  for (const [k, note] of [60, 64, 64, 67].entries()) expect(Math.abs(heard[k] - note)).toBeLessThan(0.15);
  const peak = (samples: Float32Array) => samples.reduce((most, value) => Math.max(most, Math.abs(value)), 0);
  expect(peak(made)).toBeLessThan(1.4 * peak(sound));
});
