import { classify } from '../learned/network';
import { model } from '../learned/models';
import type { LoopKind } from '../attributes/loop-kinds';
import type { Candidate } from '../facts';

/** `features`: the colour and `kindFeatures` after it. What has no repeat splits into one-shots and phrases by what happens in it: one sound, or several in more than two seconds. */
export function judgeKind(
  features: readonly number[],
  onsetCount: number,
  soundSeconds: number,
  mixProbability: number,
): Candidate<LoopKind>[] {
  const loop = classify(model('loop'), features)[1],
    phrase = onsetCount >= 4 && soundSeconds > 2.5 ? 0.5 : 0.04,
    // A whole piece is long and has everything in it; four bars of everything are a loop.
    piece = soundSeconds > 40 ? 0.7 * mixProbability : 0;
  return (
    [
      { value: 'loop', probability: loop * (1 - piece) },
      { value: 'one-shot', probability: (1 - loop) * (1 - phrase) },
      { value: 'phrase', probability: (1 - loop) * phrase },
      { value: 'full-mix', probability: loop * piece },
    ] as const
  )
    .filter(({ probability }) => probability > 0)
    .sort((a, b) => b.probability - a.probability);
}
