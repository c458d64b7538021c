import { triadChances } from '../../analysis/chords/bars';
import { triadSymbol } from '../../theory/chord';
import type { Key } from '../../theory/key';
import { scaleClasses } from '../../theory/scale';
import { keyAt } from './harmony';
import { sumBetween, type SoundingClip } from './sounding-classes';
import type { Project } from '../tree';

/** The chord that a bar of the piece is heard as, with how sure and what else it could be. */
export interface BarChord {
  readonly startBeat: number;
  readonly symbol: string;
  readonly probability: number;
  readonly rivals: readonly { readonly symbol: string; readonly probability: number }[];
}

/** A chord at home in the key is so much likelier than one that is not (common practice). */
const atHome = 1.6;

/** The chords that what sounds speaks for, bar by bar; bars in which too little sounds have none. */
export function findChords(
  sounding: readonly SoundingClip[],
  project: Pick<Project, 'key' | 'sections'>,
  fromBeat: number,
  toBeat: number,
  barBeats: number,
): BarChord[] {
  const found: BarChord[] = [];
  for (let startBeat = fromBeat; startBeat < toBeat - 1e-6; startBeat += barBeats) {
    const { classes, bass } = sumBetween(sounding, startBeat, startBeat + barBeats);
    if (Math.max(...classes) < 0.05) continue;
    const key = keyAt(project, startBeat),
      chances = withKey(triadChances(classes, bass.some((value) => value > 0) ? bass : null), key),
      ranked = [...chances.keys()]
        .sort((a, b) => chances[b] - chances[a])
        .slice(0, 3)
        .map((k) => ({ symbol: triadSymbol({ root: k % 12, minor: k >= 12 }, key), probability: chances[k] }));
    found.push({ startBeat, ...ranked[0], rivals: ranked.slice(1) });
  }
  return found;
}

function withKey(chances: Float32Array, key: Key | null): Float32Array {
  if (!key) return chances;
  const scale = scaleClasses(key),
    weighed = chances.map((chance, k) => {
      const root = k % 12,
        triad = [root, (root + (k < 12 ? 4 : 3)) % 12, (root + 7) % 12];
      return triad.every((each) => scale.includes(each)) ? chance * atHome : chance;
    }),
    sum = weighed.reduce((a, b) => a + b, 0);
  return weighed.map((chance) => chance / sum);
}
