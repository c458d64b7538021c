import { beatsFromTempo, lengthCandidates, tempoPrior, wholeness } from './length-candidates';

test('a loop of four bars at 120 is first of all that', () => {
  const [best] = lengthCandidates(8);
  expect(best).toMatchObject({ beats: 16, bars: 4, meter: '4/4' });
  expect(best.tempoBpm).toBeCloseTo(120, 9);
});
test('every candidate fills the length exactly, and all their chances sum to one', () => {
  for (const seconds of [0.9, 2.4, 5.3333, 7.058, 13.7, 21]) {
    const list = lengthCandidates(seconds);
    for (const { beats, tempoBpm } of list) expect((beats * 60) / tempoBpm).toBeCloseTo(seconds, 6);
    expect(list.reduce((sum, { probability }) => sum + probability, 0)).toBeCloseTo(1, 9);
    expect(list.every(({ tempoBpm }) => tempoBpm >= 52 && tempoBpm <= 190)).toBe(true);
  }
});
test('half and double are among the rivals', () => {
  const tempos = lengthCandidates((16 * 60) / 140).map(({ tempoBpm }) => Math.round(tempoBpm));
  expect(tempos).toEqual(expect.arrayContaining([140, 70]));
});
test('a whole tempo is likelier than a broken one, given the precision that the length allows', () => {
  expect(wholeness(126, 7.619)).toBe(1);
  expect(wholeness(126.5, 7.6)).toBeLessThan(1);
  expect(wholeness(126.37, 7.6)).toBeLessThan(wholeness(126.5, 7.6));
  // A millisecond of cut moves the tempo of a short loop by more.
  expect(wholeness(126.1, 1.0)).toBe(1);
});
test('tempos around 112 are the usual ones', () => {
  expect(tempoPrior(112)).toBe(1);
  expect(tempoPrior(60)).toBeLessThan(tempoPrior(90));
  expect(tempoPrior(180)).toBeLessThan(tempoPrior(140));
});
test('nothing fits no length', () => {
  for (const seconds of [0, 0.1, -3, NaN]) expect(lengthCandidates(seconds)).toEqual([]);
});
describe('beats once the tempo is known', () => {
  test.each<[number, number, string, number]>([
    [120, 8, '4/4', 16],
    [120, 8.02, '4/4', 16],
    [120, 7.99, '4/4', 16],
    [90, 8, '3/4', 12],
    [60, 8, '6/8', 8],
  ])('%d bpm, %d s, %s: %i beats', (tempoBpm, seconds, meter, beats) => {
    const found = beatsFromTempo(tempoBpm, seconds, meter);
    expect(found.beats).toBe(beats);
    expect(found.confidence).toBeGreaterThan(0.9);
  });
  test('a tail is left over, and makes it less sure', () => {
    const { beats, confidence } = beatsFromTempo(120, 9.2, '4/4');
    expect(beats).toBe(16);
    expect(confidence).toBeLessThan(0.8);
  });
  test('less than a bar is counted in beats', () => expect(beatsFromTempo(120, 1, '4/4').beats).toBe(2));
});
