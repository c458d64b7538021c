import { PeakCollector } from './peak-collector';
import { overviewPeaks } from './peaks';

const sound = Float32Array.from({ length: 100_000 }, (_, i) => Math.sin(i / 30) * Math.max(0, Math.sin(i / 9000)) * 0.8);

test('peaks that come piece by piece give the picture of the whole', () => {
  const collector = new PeakCollector(100);
  for (let at = 0; at < sound.length; at += 777)
    collector.push([sound.subarray(at, at + 777), sound.subarray(at, at + 777).map((value) => value / 2)]);
  const exact = overviewPeaks([sound], 50);
  collector.overview(50).forEach((value, column) => expect(Math.abs(value - exact[column])).toBeLessThan(4));
});
test('the end of the sound is where it falls 60 dB below its peak', () => {
  const collector = new PeakCollector(441),
    faded = Float32Array.from({ length: 44100 }, (_, i) => (i < 22050 ? 0.5 : 0.0001));
  collector.push([faded]);
  const { lastSoundSeconds, endLevelDb } = collector.end(44100);
  expect(lastSoundSeconds).toBeCloseTo(0.5, 2);
  expect(endLevelDb).toBeCloseTo(20 * Math.log10(0.0001 / 0.5), 1);
});
test('silence ends where it begins, and nothing has a picture of nothing', () => {
  const collector = new PeakCollector();
  expect(collector.overview(8)).toEqual(new Uint8Array(8));
  collector.push([new Float32Array(5000)]);
  expect(collector.end(44100)).toEqual({ lastSoundSeconds: 0, endLevelDb: -100 });
});
