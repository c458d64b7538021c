import { noteCount, lowestNote } from '../../core/analysis/notes/note-fit';
import { sharedKeyFeatures } from '../../core/analysis/key/key-features';
import { Chance } from './chance';
import { composeOver, composeTonal } from './compose';
import { notesAsHeard } from './heard-notes';
import { note } from './lines';
import { pieceSeconds, type Piece } from './piece';
import { keptOutKinds, makeWideHarmony, wideKinds } from './wide-harmony';

const held = (pitch: number, lengthBeats = 4): Piece => ({
  ...composeTonal(1),
  parts: [{ instrument: 'organ', notes: [note(0, lengthBeats, pitch, 100)], gain: 1 }],
  tempoBpm: 120,
  meter: '4/4',
  bars: 2,
});
const loudest = (row: Float32Array): number => row.reduce((best, value, k) => (value > row[best] ? k : best), 0);

test.each([30, 48, 60, 77])('the note %i is the loudest where it sounds, and little is left when it has gone', (pitch) => {
  for (let seed = 0; seed < 20; seed++) {
    const { strengths, frameCount, hopSeconds } = notesAsHeard(held(pitch, 2), new Chance(seed)),
      at = (seconds: number) =>
        strengths.subarray(Math.round(seconds / hopSeconds) * noteCount, (Math.round(seconds / hopSeconds) + 1) * noteCount);
    expect(frameCount).toBe(Math.ceil(4 / hopSeconds));
    expect(loudest(at(0.05)) + lowestNote).toBe(pitch);
    expect(at(3.9)[pitch - lowestNote]).toBeLessThan(0.3 * at(0.05)[pitch - lowestNote]);
  }
});

test('what is written is heard: of most pieces the strongest pitch class is one that is played', () => {
  let right = 0;
  for (let seed = 0; seed < 100; seed++) {
    const piece = composeOver(seed, (...over) => makeWideHarmony([...wideKinds, ...keptOutKinds], ...over)),
      shared = sharedKeyFeatures(notesAsHeard(piece, new Chance(seed)), 0, pieceSeconds(piece)),
      played = new Set(piece.parts.flatMap(({ notes }) => notes.filter(({ channel }) => channel !== 9).map(({ pitch }) => pitch % 12)));
    right += Number(played.has(loudest(shared.strength)));
  }
  expect(right).toBeGreaterThanOrEqual(97);
});

test('drums are not heard as notes', () => {
  const piece: Piece = { ...held(60), parts: [{ instrument: 'kit', notes: [{ ...note(0, 1, 36, 100), channel: 9 }], gain: 1 }] };
  expect(Math.max(...notesAsHeard(piece, new Chance(1)).strengths)).toBe(0);
});
