import { stemOf } from './fields';
import { nameWords } from './parse-name';

interface SetRole {
  readonly label: string;
  /** How it is said at the end of a name, in words of small letters. */
  readonly words: string;
}

const counted = '( ?\\d+)?';

/** What part a loop has in its set: what names say with their last words (common practice of vendors). The first that fits is meant. */
export const setRoles: Readonly<Record<string, SetRole>> = {
  full: { label: 'Full', words: 'full|main' },
  'no-kick': { label: 'No kick', words: '(no|without) kick' },
  tops: { label: 'Tops', words: 'tops?' },
  thin: { label: 'Thin', words: 'thin|light|stripped|(no|without) (drums|bass|melody|hats?|snare)' },
  verse: { label: 'Verse', words: `verse${counted}` },
  chorus: { label: 'Chorus', words: `(chorus|hook)${counted}` },
  bridge: { label: 'Bridge', words: `(bridge|middle ?8)${counted}` },
  fill: { label: 'Fill', words: `fill${counted}` },
  intro: { label: 'Intro', words: `intro${counted}` },
  ending: { label: 'Ending', words: `(ending|end|outro)${counted}` },
  di: { label: 'DI', words: 'di|direct' },
  mic: { label: 'Microphone', words: `(mic|room|close|overheads?|oh)${counted}` },
  stem: { label: 'Stem', words: `stem${counted}` },
  take: { label: 'Take', words: `(take|tk)${counted}` },
  variation: { label: 'Variation', words: `[b-d]\\d?|a[2-9]|(var|variation|alt)${counted}` },
};

const patterns = Object.entries(setRoles).map(([role, { words }]) => ({ role, pattern: new RegExp(`(?:^|(.*?) )(?:${words})$`) })),
  /** The first of a set has no role but its letter. */
  first = /^(?:(.*?) )?a1?$/;

const wordsOf = (fileName: string): string =>
  nameWords(stemOf(fileName))
    .toLowerCase()
    .replace(/ \d{2,3} ?bpm/, '');

/** @returns a key of `setRoles`; null where the name says nothing of it, or nothing else */
export function setRoleOf(fileName: string): string | null {
  const words = wordsOf(fileName);
  return patterns.find(({ pattern }) => pattern.exec(words)?.[1])?.role ?? null;
}

const shortestStem = 3;
/** Folders that say what lies in them, and nothing of sets. */
const plainFolders = /^(loops?|audio|wavs?|midi|samples?|one ?shots?|files?|\d+ ?bpm)$/;

/**
 * The stem that the loops of one set share: `Groove A1`, `Groove A2`, `Groove Ending` → `groove`. Files that are called by their part alone are a
 * set by their folder: `Night Groove/Intro.wav` → `night groove`.
 * @param path with `/` @returns null without a mark of a part
 */
export function setStem(path: string): string | null {
  const parts = path.split('/').filter(Boolean),
    words = wordsOf(parts.at(-1) ?? ''),
    match = [first, ...patterns.map(({ pattern }) => pattern)].map((pattern) => pattern.exec(words)).find((found) => found !== null);
  if (!match) return null;
  const stem = (match[1] ?? '').trim();
  if (stem.length >= shortestStem) return stem;
  const folder = wordsOf(parts.at(-2) ?? '');
  return stem === '' && folder.length >= shortestStem && !plainFolders.test(folder) ? folder : null;
}
