import { beatsToSeconds } from '../../units/time';
import type { SharedRhythmFeatures } from '../tempo/candidate-features';

const closeness = (value: number, scale: number): number => Math.exp(-Math.abs(value) / scale);

/** Beside the colour: does the length fit bars at a whole tempo, does anything repeat, how does it end. */
export function kindFeatures({ heard, pulse, likeness, onsetSeconds }: SharedRhythmFeatures): number[] {
  const { span } = heard;
  // N bars of 4/4 at a whole tempo: how exactly the file's length is one, over the lengths that loops have.
  let fit = 0,
    loose = 0;
  for (const beats of [4, 8, 16, 32, 12, 24]) {
    const tempo = (beats * 60) / Math.max(0.01, span.fileSeconds),
      whole = Math.round(tempo);
    if (tempo < 58 || tempo > 182) continue;
    const away = span.fileSeconds - beatsToSeconds(beats, whole);
    fit = Math.max(fit, closeness(away, 0.0002));
    loose = Math.max(loose, closeness(away, 0.003));
  }
  const strongest = (curve: Float32Array, hopSeconds: number, from: number): number => {
    let most = 0;
    for (let lag = Math.ceil(from / hopSeconds); lag < curve.length * 0.9; lag++) most = Math.max(most, curve[lag]);
    return most;
  };
  const last = onsetSeconds.at(-1) ?? 0,
    first = onsetSeconds[0] ?? 0;
  return [
    fit,
    loose,
    strongest(pulse.all, pulse.hopSeconds, 0.18),
    strongest(likeness.curve, likeness.hopSeconds, 0.3),
    Math.log1p(onsetSeconds.length),
    Math.log1p(Math.max(0, last - first)),
    span.fileSeconds > 0 ? last / span.fileSeconds : 0,
    Math.max(-1, span.endLevelDb / 60),
    Math.log1p(span.fileSeconds),
    Math.log1p(Math.max(0, span.fileSeconds - span.lastSoundSeconds) * 10),
  ];
}
