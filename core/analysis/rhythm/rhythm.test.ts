import { hits, rateHz } from '../../../test/generators/signals';
import { hear } from '../listen/hear';
import { measurePulse } from '../tempo/candidates';
import { sharedRhythmFeatures } from '../tempo/candidate-features';
import { measureGroove } from './accents';
import { characterWords } from './character';

const tempoBpm = 100,
  cell = 60 / tempoBpm / 4;
const reading = { tempoBpm, beats: 8, bars: 2, meter: '4/4', startSeconds: 0 } as const;
const grooveOf = (places: readonly number[]) => {
  const heard = hear({
    sampleRateHz: rateHz,
    channels: [
      hits(
        places.map((place) => place * cell + 0.001),
        32 * cell,
      ),
    ],
  });
  return measureGroove(heard.onsets, sharedRhythmFeatures(heard, measurePulse(heard.onsets)).onsetSeconds, reading);
};

test('accents stand where the hits are', () => {
  const places = [0, 6, 8, 14],
    { accents } = grooveOf([...places, ...places.map((place) => place + 16)]);
  const loudest = accents[2].map((value, place) => ({ value, place })).sort((a, b) => b.value - a.value);
  expect(
    loudest
      .slice(0, 4)
      .map(({ place }) => place)
      .sort((a, b) => a - b),
  ).toEqual(places);
  expect(accents[2][3]).toBeLessThan(0.2);
});

test('straight eighths swing 0.5, triplet eighths two thirds (common practice)', () => {
  const bars = (late: number) => Array.from({ length: 16 }, (_, k) => k * 2 + (k % 2 ? late : 0));
  expect(grooveOf(bars(0)).swing).toBeCloseTo(0.5, 1);
  expect(grooveOf(bars(4 / 3 - 1 + 1 / 3)).swing).toBeCloseTo(2 / 3, 1);
});

test('hits 20 ms off the grid are measured as about that', () => {
  const off = 0.02 / cell,
    places = Array.from({ length: 8 }, (_, k) => k * 4 + (k % 2 ? off : 0));
  expect(grooveOf(places).spreadMs).toBeGreaterThan(6);
  expect(grooveOf(places).spreadMs).toBeLessThan(16);
  expect(grooveOf(Array.from({ length: 8 }, (_, k) => k * 4)).spreadMs).toBeLessThan(6);
});

test('words of character are said only on the clear side of their formula', () => {
  const middle = { fallSeconds: 0.3, centreHz: 1200, flatness: 0.06, onsetsPerBeat: 1.5, spreadMs: 10, crestDb: 15, pitched: true };
  expect(characterWords(middle)).toEqual([]);
  expect(
    characterWords({ ...middle, fallSeconds: 1.2, centreHz: 4000, flatness: 0.3, onsetsPerBeat: 4, spreadMs: 20, crestDb: 22 }),
  ).toEqual(['roomy', 'bright', 'driven', 'busy', 'loose', 'punchy']);
  expect(
    characterWords({ ...middle, fallSeconds: 0.05, centreHz: 300, flatness: 0.01, onsetsPerBeat: 0.5, spreadMs: 2, crestDb: 8 }),
  ).toEqual(['dry', 'dark', 'clean', 'sparse', 'tight', 'soft']);
  expect(characterWords({ ...middle, flatness: 0.3, pitched: false, onsetsPerBeat: null, spreadMs: null })).toEqual([]);
});

test('a bar of an unknown meter has as many steps as it has sixteenths', () => {
  const heard = hear({ sampleRateHz: 44100, channels: [hits([0.001, 20 * cell + 0.001], 40 * cell)] }),
    { accents } = measureGroove(heard.onsets, [], { tempoBpm, beats: 10, bars: 2, meter: 'unknown', startSeconds: 0 });
  expect(accents[0]).toHaveLength(20);
  expect(accents[2][0]).toBeGreaterThan(0.8);
  expect(Math.max(...accents[2].slice(2))).toBeLessThan(0.2);
});
