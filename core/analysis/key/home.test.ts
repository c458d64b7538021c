import { homeFeatureCount, homeFeatures, homelessChance } from './home';
import { sharedKeyFeatures, type SharedKeyFeatures } from './key-features';
import { judgeKey } from './judge-key';
import { lowestNote, noteCount, type NoteFrames } from '../notes/note-fit';

/** Note frames in which at each of so many equal times these MIDI notes sound. */
function played(times: readonly (readonly number[])[]): NoteFrames {
  const each = 24,
    frameCount = times.length * each,
    strengths = new Float32Array(frameCount * noteCount);
  times.forEach((notes, k) => {
    for (let frame = k * each; frame < (k + 1) * each; frame++)
      for (const note of notes) strengths[frame * noteCount + note - lowestNote] = 1;
  });
  return { hopSeconds: 1 / 24, frameCount, strengths } as NoteFrames;
}
const shared = (times: readonly (readonly number[])[]): SharedKeyFeatures => sharedKeyFeatures(played(times), 0, times.length),
  chance = (times: readonly (readonly number[])[]): number => {
    const heard = shared(times);
    return homelessChance(
      heard,
      judgeKey(heard).map(({ probability }) => probability),
    );
  };
const triad = (root: number, minor = false): number[] => [root, root + (minor ? 3 : 4), root + 7],
  moved = (times: readonly (readonly number[])[], semitones: number) => times.map((notes) => notes.map((note) => note + semitones));
/** Cadences of harmony handbooks: I–IV–V–I, i–iv–V–i, I–vi–ii–V. */
const cadences = {
  major: [triad(48), triad(53), triad(55), triad(48)],
  minor: [triad(57, true), triad(50, true), triad(52), triad(57, true)],
  turnaround: [triad(48), triad(57, true), triad(50, true), triad(55)],
};

test.each(Object.entries(cadences))('a %s cadence has one key, in whatever key it is', (_, times) => {
  for (let semitones = 0; semitones < 12; semitones++) expect(chance(moved(times, semitones))).toBeLessThan(0.1);
});
test('what goes on a tritone higher halfway has no single key', () => {
  for (let semitones = 0; semitones < 12; semitones += 3) {
    const times = moved([...cadences.major, ...cadences.major], semitones),
      turned = [...times.slice(0, 4), ...moved(times.slice(4), 6)];
    expect(chance(turned)).toBeGreaterThan(0.5);
    expect(chance(turned)).toBeGreaterThan(5 * chance(times));
  }
});
test('twelve notes alike have none', () => {
  const row = [60, 66, 61, 67, 62, 68, 63, 69, 64, 70, 65, 71].map((note) => [note]);
  expect(chance(row)).toBeGreaterThan(0.5);
});
test('turned to another key, all of it is the same', () => {
  const features = (semitones: number) =>
    homeFeatures(shared(moved([...cadences.minor, ...moved(cadences.major, 3)], semitones)), new Array<number>(24).fill(1 / 24));
  features(5).forEach((value, k) => expect(value).toBeCloseTo(features(0)[k], 5));
  expect(features(0)).toHaveLength(homeFeatureCount);
});
test('silence says nothing', () => {
  const silent = shared([[], []]);
  expect(homeFeatures(silent, new Array<number>(24).fill(1 / 24)).every(Number.isFinite)).toBe(true);
});
