import { chord, rateHz } from '../../../test/generators/signals';
import { toneFrames } from '../listen/tones';
import { fitNotes } from '../notes/note-fit';
import { chordLikeness, keyFeatureCount, keyFeatures, sharedKeyFeatures, type SharedKeyFeatures } from './key-features';

const classes = (...weights: readonly [pitchClass: number, weight: number][]): Float32Array => {
    const out = new Float32Array(12);
    for (const [pc, weight] of weights) out[pc] = weight;
    return out;
  },
  top = (values: ArrayLike<number>): number => Array.from(values).reduce((best, value, k, all) => (value > all[best] ? k : best), 0),
  sharedOf = (...sounds: Float32Array[]): SharedKeyFeatures => {
    const sound = Float32Array.from(sounds.flatMap((each) => [...each]));
    return sharedKeyFeatures(fitNotes(toneFrames(sound, rateHz, 1)), 0, sound.length / rateHz);
  };

describe('how well triads explain pitch classes', () => {
  test('C, E and G are C major; C, E flat and G are C minor', () => {
    expect(top(chordLikeness(classes([0, 1], [4, 1], [7, 1]), null))).toBe(0);
    expect(top(chordLikeness(classes([0, 1], [3, 1], [7, 1]), null))).toBe(12);
  });
  test('a bass note decides between two readings of the same notes', () => {
    // C, E, G and A: C with a sixth, or A minor with a seventh.
    const notes = classes([0, 1], [4, 1], [7, 1], [9, 1]);
    expect(top(chordLikeness(notes, classes([0, 1])))).toBe(0);
    expect(top(chordLikeness(notes, classes([9, 1])))).toBe(12 + 9);
  });
  test('they sum to 1, and to 0 for silence', () => {
    expect(chordLikeness(classes([2, 3], [6, 1]), null).reduce((a, b) => a + b, 0)).toBeCloseTo(1, 5);
    expect(Math.max(...chordLikeness(new Float32Array(12), null))).toBe(0);
  });
});

describe('what sounds where', () => {
  const c = [48, 60, 64, 67],
    f = [41, 60, 65, 69];
  test('a chord of C over C', () => {
    const shared = sharedOf(chord(c, 2));
    expect(top(shared.bass)).toBe(0);
    expect(top(shared.chords)).toBe(0);
    const strongest = [...shared.strength.keys()].sort((a, b) => shared.strength[b] - shared.strength[a]).slice(0, 3);
    expect(new Set(strongest)).toEqual(new Set([0, 4, 7]));
  });
  test('first, last and the quarters tell where a chord changes', () => {
    const shared = sharedOf(chord(c, 1.5), chord(f, 1.5));
    expect([top(shared.firstChord), top(shared.lastChord)]).toEqual([0, 5]);
    expect(shared.quarters.map(top)).toEqual([0, 0, 5, 5]);
    expect([top(shared.firstBass), top(shared.bass) === 0 || top(shared.bass) === 5]).toEqual([0, true]);
  });
  test('turned to its tonic a chord looks the same in every key', () => {
    const low = keyFeatures(sharedOf(chord(c, 2)), 0),
      high = keyFeatures(
        sharedOf(
          chord(
            c.map((note) => note + 3),
            2,
          ),
        ),
        3,
      );
    expect(low).toHaveLength(keyFeatureCount);
    // Strengths and chords of all slots; what rounding and the window do differs a little.
    for (let k = 0; k < 72; k++) expect(Math.abs(low[k] - high[k])).toBeLessThan(0.2);
    expect(top(low.slice(72, 96))).toBe(0);
    expect(top(high.slice(72, 96))).toBe(0);
  });
  test('silence has no notes and gives finite features', () => {
    const features = keyFeatures(sharedOf(new Float32Array(rateHz)), 5);
    expect(features.every(Number.isFinite)).toBe(true);
    expect(Math.max(...features.slice(0, 12))).toBe(0);
  });
});
