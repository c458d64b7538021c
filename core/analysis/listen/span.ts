import { peakOf, survey } from '../../dsp/kernels/planes';

/** Where sound begins and ends in a file, in seconds. */
export interface SoundSpan {
  readonly fileSeconds: number;
  /** First frame that stands out of what is before it: silence, or a floor of noise. */
  readonly firstSoundSeconds: number;
  /** Last moment above −60 dB of the peak. */
  readonly lastSoundSeconds: number;
  /** Level of the last 10 ms against the loudest 10 ms, in dB; −100 for silence. */
  readonly endLevelDb: number;
  /** Level of what is before the first sound against the loudest 10 ms, in dB; 0 when the file begins with its sound. */
  readonly leadLevelDb: number;
}

const blockSeconds = 0.01;

export function soundSpan(mono: Float32Array, sampleRateHz: number): SoundSpan {
  const fileSeconds = mono.length / sampleRateHz,
    peak = peakOf(mono);
  if (peak < 1e-7) return { fileSeconds, firstSoundSeconds: 0, lastSoundSeconds: 0, endLevelDb: -100, leadLevelDb: 0 };
  const block = Math.max(1, Math.round(blockSeconds * sampleRateHz)),
    blocks = Math.ceil(mono.length / block),
    levels = new Float32Array(blocks);
  for (let b = 0; b < blocks; b++) {
    const to = Math.min(mono.length, (b + 1) * block);
    levels[b] = Math.sqrt(survey(mono, mono, b * block, to).energies[0] / (to - b * block));
  }
  const loudest = levels.reduce((a, b) => Math.max(a, b), 0),
    db = (value: number) => (value > loudest * 1e-5 ? 20 * Math.log10(value / loudest) : -100);
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
  let last = blocks - 1;
  while (last > 0 && levels[last] < loudest * 0.001) last--;
  let before = 0;
  for (let i = 0; i < first; i++) before += mono[i] * mono[i];
  return {
    fileSeconds,
    firstSoundSeconds: first / sampleRateHz,
    lastSoundSeconds: Math.min(fileSeconds, (last + 1) * blockSeconds),
    endLevelDb: db(levels[blocks - 1]),
    leadLevelDb: first > 0 ? db(Math.sqrt(before / first)) : 0,
  };
}
