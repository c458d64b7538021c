import { powerToDb } from '../../units/level';
import { melBands, type MelFrames } from '../listen/mel';

/** A moment from which a sound only dies away: where its last notes are let go. */
export interface Release {
  readonly seconds: number;
  /** How much faster the level falls after it than before it, dB in a tenth of a second. */
  readonly bend: number;
}

const floorDb = -75,
  afterSeconds = 0.1,
  beforeSeconds = 0.15,
  apartSeconds = 0.09;

/**
 * The sharpest bends of the level after which it never comes back, at most `most`, the sharpest first. A tail hides where the music
 * ends; but players and sequencers let their last notes go at a bar line more often than elsewhere.
 */
export function lastReleases(
  { power, frameCount, hopSeconds }: Pick<MelFrames, 'power' | 'frameCount' | 'hopSeconds'>,
  most: number,
): Release[] {
  const levels = new Float32Array(frameCount);
  for (let frame = 0; frame < frameCount; frame++) {
    let sum = 0;
    for (let band = 0; band < melBands; band++) sum += power[frame * melBands + band];
    levels[frame] = Math.max(floorDb, powerToDb(sum + 1e-12));
  }
  const after = Math.round(afterSeconds / hopSeconds),
    before = Math.round(beforeSeconds / hopSeconds),
    found: Release[] = [];
  // From the end backwards: the loudest that is still to come.
  let coming = -Infinity;
  const bends = new Float32Array(frameCount);
  for (let frame = frameCount - 1; frame >= before; frame--) {
    const later = frame + after;
    if (later < frameCount) coming = Math.max(coming, levels[later]);
    const here = levels[frame],
      fall = here - (levels[Math.min(frameCount - 1, later)] ?? floorDb),
      fell = ((levels[frame - before] - here) * afterSeconds) / beforeSeconds;
    if (here > floorDb + 10 && coming < here - 1.5) bends[frame] = Math.max(0, fall - Math.max(0, fell));
  }
  const order = Array.from(bends.keys())
    .filter((frame) => bends[frame] > 1.5)
    .sort((a, b) => bends[b] - bends[a]);
  for (const frame of order) {
    const seconds = frame * hopSeconds;
    if (found.length < most && found.every((each) => Math.abs(each.seconds - seconds) > apartSeconds))
      found.push({ seconds, bend: bends[frame] });
  }
  return found;
}

export const releaseFeatureCount = 6;

const closeness = (value: number, scale: number): number => Math.exp(-Math.abs(value) / scale);

/** How a candidate's last bar line lies to the moments at which notes are let go. */
export function releaseFeatures(releases: readonly Release[], endSeconds: number, beat: number): number[] {
  const [sharpest] = releases;
  if (!sharpest) return [0, 0, 0, 0, 0, 0];
  // The line is met by what ends on it, and by what is let go a little before it.
  const meets = ({ seconds }: Release, scale: number): number => {
    const early = endSeconds - seconds;
    return early >= 0 && early <= 0.08 ? closeness(early, 0.2) : closeness(early < 0 ? early : early - 0.08, scale);
  };
  const weighted = (scale: number) => Math.max(...releases.map((each) => (meets(each, scale) * Math.min(30, each.bend)) / 30));
  return [
    weighted(0.02),
    weighted(0.08),
    Math.max(...releases.map((each) => meets(each, 0.02))),
    meets(sharpest, 0.02),
    Math.max(-3, Math.min(3, (endSeconds - sharpest.seconds) / beat)),
    Math.min(1, sharpest.bend / 40),
  ];
}
