import { placeHits } from './places';
import { bentMap, straightMap } from './time-map';

const rateHz = 44100,
  ms = rateHz / 1000,
  // One bar at 120 bpm; a sixteenth is 125 ms.
  bar = 2 * rateHz,
  sixteenth = bar / 16;

const offsetsMs = (onsets: number[], ratio: number, lines: number[]): number[] => {
  const places = placeHits(onsets.map(Math.round), straightMap(bar, Math.round(bar * ratio)), 4, rateHz);
  return places.map((place, k) => Number(((place - lines[k] * ratio) / ms).toFixed(1)));
};

test.each([0.5, 0.8, 1.25, 2])('hits near a sixteenth keep their distance from it in milliseconds, at × %d', (ratio) => {
  const lines = [0, 3 * sixteenth, 6 * sixteenth, 12 * sixteenth];
  expect(offsetsMs([lines[0] + 2 * ms, lines[1] - 6 * ms, lines[2], lines[3] + 7.5 * ms], ratio, lines)).toEqual([2, -6, 0, 7.5]);
});

test('so do those on triplets', () => {
  const third = bar / 12;
  expect(offsetsMs([third + 3 * ms, 2 * third - 4 * ms], 2, [third, 2 * third])).toEqual([3, -4]);
});

test.each([0.5, 1.5, 2])('hits that swing beside the lines keep their distance from the swing in milliseconds, at × %d', (ratio) => {
  // A fifth of the half beat behind the line: 25 ms, where neither a sixteenth nor a triplet is near.
  const swung = [1, 3, 5, 9, 13].map((step) => step * sixteenth + 25 * ms),
    found = [-2, 0, 3, 0, -1].map((off, k) => swung[k] + off * ms);
  expect(offsetsMs(found, ratio, swung)).toEqual([-2, 0, 3, 0, -1]);
});

test('two hits beside the lines are no swing: they go where the map sends them', () => {
  const swung = [1, 5].map((step) => step * sixteenth + 25 * ms);
  expect(offsetsMs([swung[0] - 2 * ms, swung[1] + 2 * ms], 2, swung)).toEqual([-4, 4]);
});

test('what all hits are found late by does not grow beside the lines either', () => {
  const lines = [0, 2, 4, 6].map((step) => step * sixteenth),
    between = 9 * sixteenth + 25 * ms,
    late = [...lines, between].map((frame) => frame + 3 * ms);
  expect(offsetsMs(late, 2, [...lines, between])).toEqual([3, 3, 3, 3, 3]);
  // The same with a swing of three.
  const swung = [9, 11, 13].map((step) => step * sixteenth + 25 * ms);
  expect(
    offsetsMs(
      [...lines, ...swung].map((frame) => frame + 3 * ms),
      2,
      [...lines, ...swung],
    ),
  ).toEqual([3, 3, 3, 3, 3, 3, 3]);
});

test('without beats, everything goes where the map sends it', () => {
  expect(placeHits([100, 5612, 30000], straightMap(bar, bar * 2), 0, rateHz)).toEqual([200, 11224, 60000]);
});

test('from near a line to between the lines there is no jump', () => {
  const map = straightMap(bar, bar * 2);
  let before = placeHits([4 * sixteenth], map, 4, rateHz)[0],
    farthest = 0;
  for (let frame = 4 * sixteenth + 1; frame < 5 * sixteenth; frame++) {
    const [place] = placeHits([frame], map, 4, rateHz);
    farthest = Math.max(farthest, Math.abs(place - before));
    before = place;
  }
  // Of a target twice as long a frame is two, and three where the distance is let go.
  expect(farthest).toBeLessThanOrEqual(5);
});

test('hits stay in order, and apart, however close they lie', () => {
  let seed = 3;
  const random = () => (seed = (seed * 16807) % 2147483647) / 2147483647;
  for (let round = 0; round < 200; round++) {
    const onsets = [...new Set(Array.from({ length: 40 }, () => Math.floor(random() * bar)))].sort((a, b) => a - b),
      ratio = 0.5 + random() * 1.5,
      target = Math.round(bar * ratio),
      places = placeHits(onsets, straightMap(bar, target), 4, rateHz);
    const tooClose = places.filter((place, k) => {
      const last = k === places.length - 1,
        gap = last ? onsets[0] + bar - onsets[k] : onsets[k + 1] - onsets[k];
      return !((last ? places[0] + target : places[k + 1]) - place >= Math.floor(0.5 * ratio * gap) - 1);
    });
    expect(tooClose).toEqual([]);
  }
});

test('a player who wanders is drawn to the grid, less what he is off from his own beat', () => {
  // Beats two and four came 20 ms late; a hit on each, and one 5 ms behind the third beat.
  const marks = [0, bar / 4 + 20 * ms, bar / 2, (bar * 3) / 4 + 20 * ms].map(Math.round),
    map = bentMap(bar, bar * 1.5, marks),
    places = placeHits([0, marks[1], Math.round(bar / 2 + 5 * ms), marks[3]], map, 4, rateHz);
  expect(places.map((place) => Number(((place - Math.round((place / bar / 1.5) * 4) * (bar / 4) * 1.5) / ms).toFixed(1)))).toEqual([
    0, 0, 5, 0,
  ]);
});
