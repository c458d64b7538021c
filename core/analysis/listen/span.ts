import { ratioToDb } from '../../units/level';
import { peakOf, survey } from '../../dsp/kernels/planes';

/** Where sound begins and ends in a file, in seconds. */
export interface SoundSpan {
  readonly fileSeconds: number;
  /** First frame that stands out of what is before it: silence, or a floor of noise. */
  readonly firstSoundSeconds: number;
  /** Last moment above −60 dB of the loudest 10 ms and above a floor of noise that the file ends with. */
  readonly lastSoundSeconds: number;
  /** How far the level falls from the last 10 ms of the sound to the 10 ms behind, in dB: a cut falls far. 0 when the file ends with its sound. */
  readonly endFallDb: number;
  /** Level of the last 10 ms against the loudest 10 ms, in dB; −100 for silence. */
  readonly endLevelDb: number;
  /** Level of what is before the first sound against the loudest 10 ms, in dB; 0 when the file begins with its sound. */
  readonly leadLevelDb: number;
}

const blockSeconds = 0.01;

/** Where in a file there is sound, and how it ends: measured in blocks of 10 ms against the file's own peak. Silence has a span of no length. */
export function soundSpan(mono: Float32Array, sampleRateHz: number): SoundSpan {
  const fileSeconds = mono.length / sampleRateHz,
    peak = peakOf(mono);
  if (peak < 1e-7) return { fileSeconds, firstSoundSeconds: 0, lastSoundSeconds: 0, endFallDb: 0, endLevelDb: -100, leadLevelDb: 0 };
  const block = Math.max(1, Math.round(blockSeconds * sampleRateHz)),
    blocks = Math.ceil(mono.length / block),
    levels = new Float32Array(blocks);
  for (let b = 0; b < blocks; b++) {
    const to = Math.min(mono.length, (b + 1) * block);
    levels[b] = Math.sqrt(survey(mono, mono, b * block, to).energies[0] / (to - b * block));
  }
  const loudest = levels.reduce((a, b) => Math.max(a, b), 0),
    db = (value: number) => (value > loudest * 1e-5 ? ratioToDb(value / loudest) : -100);
  // The floor in front: the loudest sample of the first 1.5 ms, which a fade or a noise floor fills.
  const head = Math.min(mono.length, Math.round(0.0015 * sampleRateHz));
  let floor = 0;
  for (let i = 0; i < head; i++) floor = Math.max(floor, Math.abs(mono[i]));
  let first = 0;
  if (floor < peak * 0.02) {
    const above = Math.max(floor * 2.5, peak * 0.004);
    while (first < mono.length && Math.abs(mono[first]) < above) first++;
    // Back to where the rise began: the first crossing of the floor before it, 2 ms at the most.
    const back = Math.max(0, first - Math.round(0.002 * sampleRateHz));
    while (first > back && Math.abs(mono[first - 1]) > Math.max(floor, peak * 0.0003)) first--;
  }
  const silent = Math.max(loudest * 0.001, 2 * floorBehind(levels, loudest));
  let last = blocks - 1;
  while (last > 0 && levels[last] < silent) last--;
  // Within its block to the frame: what is cut off there ends a bar more often than not, and a hundredth of a second is half a beat a minute.
  let lastFrame = Math.min(mono.length, (last + 1) * block) - 1;
  while (lastFrame > last * block && Math.abs(mono[lastFrame]) < 2 * silent) lastFrame--;
  const behind = Math.min(block, mono.length - lastFrame - 1),
    levelOf = (from: number, frames: number) =>
      Math.max(loudest * 1e-4, Math.sqrt(survey(mono, mono, Math.max(0, from), Math.max(0, from) + frames).energies[0] / frames));
  const endFallDb = behind < block ? 0 : db(levelOf(lastFrame + 1 - block, block)) - db(levelOf(lastFrame + 1, block));
  let before = 0;
  for (let i = 0; i < first; i++) before += mono[i] * mono[i];
  return {
    fileSeconds,
    firstSoundSeconds: first / sampleRateHz,
    lastSoundSeconds: (lastFrame + 1) / sampleRateHz,
    endFallDb,
    endLevelDb: db(levels[blocks - 1]),
    leadLevelDb: first > 0 ? db(Math.sqrt(before / first)) : 0,
  };
}

/** So many blocks at the end have to be alike, in a row, to be a floor of noise, and so far below the loudest. */
const floorBlocks = 12,
  floorSpreadDb = 1.5,
  floorBelowDb = 32;

/** The level of noise that goes on when the sound is over; 0 where the file ends with its sound. The last block may be half a one, or faded. */
function floorBehind(levels: Float32Array, loudest: number): number {
  if (levels.length < 4 * floorBlocks) return 0;
  const end = levels.subarray(levels.length - 1 - floorBlocks, levels.length - 1),
    most = Math.max(...end);
  return most < loudest * 10 ** (-floorBelowDb / 20) && most < Math.min(...end) * 10 ** (floorSpreadDb / 20) ? most : 0;
}
