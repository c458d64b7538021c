import { drumPattern, drumStyles, kitParts, type DrumWishes } from './drum-pattern';
import type { PatternNote } from './pattern';

let count = 0;
const newId = () => `n${count++}`;

describe('drums by wishes', () => {
  const wishes = (changes: Partial<DrumWishes> = {}): DrumWishes => ({
    styleId: 'backbeat',
    bars: 4,
    barBeats: 4,
    busy: 0.5,
    hard: 0.7,
    swing: 0,
    fillEveryBars: 4,
    parts: new Set(kitParts),
    seed: 1,
    ...changes,
  });
  const plain = (notes: readonly PatternNote[]) => notes.map(({ id: _, ...rest }) => rest);
  test('the same wishes give the same, another seed another', () => {
    expect(plain(drumPattern(wishes(), newId))).toEqual(plain(drumPattern(wishes(), newId)));
    expect(plain(drumPattern(wishes(), newId))).not.toEqual(plain(drumPattern(wishes({ seed: 2 }), newId)));
  });
  test('busier is more, harder is louder, a swing lets the second sixteenth wait', () => {
    for (const { id } of drumStyles) {
      expect(drumPattern(wishes({ styleId: id, busy: 1 }), newId).length).toBeGreaterThan(
        drumPattern(wishes({ styleId: id, busy: 0 }), newId).length,
      );
      const mean = (hard: number) => {
        const notes = drumPattern(wishes({ styleId: id, hard }), newId);
        return notes.reduce((sum, { velocity }) => sum + velocity, 0) / notes.length;
      };
      expect(mean(1)).toBeGreaterThan(mean(0.1) + 20);
    }
    expect(drumPattern(wishes({ busy: 1, swing: 1 }), newId).some(({ startBeat }) => Math.abs((startBeat % 0.5) - 0.375) < 1e-9)).toBe(
      true,
    );
  });
  test('only the parts that are wanted play; a fill ends every fourth bar; other meters hold', () => {
    expect(new Set(drumPattern(wishes({ parts: new Set(['kick']) }), newId).map(({ pitch }) => pitch))).toEqual(new Set([36]));
    const toms = drumPattern(wishes(), newId).filter(({ pitch }) => [48, 45, 41].includes(pitch));
    expect(toms.length).toBeGreaterThan(0);
    expect(toms.every(({ startBeat }) => startBeat >= 14)).toBe(true);
    const seven = drumPattern(wishes({ barBeats: 7, fillEveryBars: 0 }), newId);
    expect(Math.max(...seven.map(({ startBeat }) => startBeat))).toBeLessThan(28);
  });
});
