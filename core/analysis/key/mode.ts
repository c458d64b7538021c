import type { Key } from '../../theory/key';

const modes = {
  dorian: { mode: 'minor', has: 9, lacks: 8 },
  phrygian: { mode: 'minor', has: 1, lacks: 2 },
  mixolydian: { mode: 'major', has: 10, lacks: 11 },
  lydian: { mode: 'major', has: 6, lacks: 5 },
} as const;
export type ModeName = keyof typeof modes;

/**
 * The church mode of a key, where its one telling note sounds clearly and the usual one does not: the sixth of dorian, the second of
 * phrygian, the seventh of mixolydian, the fourth of lydian. Common practice.
 * @param chroma strength of the twelve pitch classes, in any scale
 * @returns null for plain major and minor, and for what leaves it open
 */
export function modeOf(chroma: readonly number[], key: Key): ModeName | null {
  const strongest = Math.max(...chroma, 1e-9),
    at = (step: number) => (chroma[(key.tonic + step) % 12] ?? 0) / strongest;
  const found = (Object.keys(modes) as ModeName[]).filter((name) => {
    const { mode, has, lacks } = modes[name];
    return mode === key.mode && at(has) > 0.12 && at(has) > 4 * at(lacks);
  });
  // Two telling notes at once are a scale of their own, or another tonic.
  return found.length === 1 ? found[0] : null;
}
