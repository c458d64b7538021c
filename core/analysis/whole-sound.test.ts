import { hits, rateHz } from '../../test/generators/signals';
import { noTags } from '../formats/tags/embedded';
import { analyseAudio } from './analyse-audio';
import type { WholeSound } from './analysis';
import { measureLevels } from './level/levels';
import { hear, longestHeardSeconds } from './listen/hear';

const beat = hits(
  Array.from({ length: 32 }, (_, k) => k * 0.5),
  16,
);
const whole: WholeSound = {
  lengthSeconds: 1200,
  levels: { ...measureLevels([beat], rateHz), integratedLufs: -9.5 },
  peakDbfs: -0.3,
  overview: new Uint8Array(240).fill(99),
  lastSoundSeconds: 1190,
  endLevelDb: -40,
};

test('of a long file the head is heard, and the whole is what was measured on the way', () => {
  const { measures } = analyseAudio({ sampleRateHz: rateHz, channels: [beat] }, '', noTags, whole);
  expect(measures).toMatchObject({ lengthSeconds: 1200, loudnessLufs: -9.5, peakDbfs: -0.3, soundEndSeconds: 1190 });
  expect(measures.overview).toEqual(whole.overview);
  expect(measures.detail?.heardSeconds).toBeCloseTo(16, 3);
  expect(measures.detail?.levels?.integratedLufs).toBe(-9.5);
});
test('the length of a head is not taken for the length of a loop', () => {
  const alone = analyseAudio({ sampleRateHz: rateHz, channels: [beat] }, '', noTags).measures.detail?.readings ?? [],
    head = analyseAudio({ sampleRateHz: rateHz, channels: [beat] }, '', noTags, whole).measures.detail?.readings ?? [];
  expect(alone.some(({ bars, tempoBpm }) => bars === 8 && Math.abs(tempoBpm - 120) < 0.1)).toBe(true);
  for (const { beats, tempoBpm, startSeconds } of head) expect(startSeconds + (beats * 60) / tempoBpm).toBeLessThan(1201);
});
test('more than is heard is not looked at', () => {
  const long = new Float32Array((longestHeardSeconds + 3) * 8000);
  for (let i = 0; i < long.length; i += 4000) long[i] = 0.5;
  const heard = hear({ sampleRateHz: 8000, channels: [long] });
  expect(heard.heardSeconds).toBe(longestHeardSeconds);
  expect(heard.span.fileSeconds).toBeCloseTo(longestHeardSeconds + 3, 3);
});
