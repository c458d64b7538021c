import { nameWords } from './parse-name';

/** What part a loop has in its set: what names say with their last word (common practice of vendors). */
export const setRoles: Readonly<Record<string, { readonly label: string; readonly words: RegExp }>> = {
  full: { label: 'Full', words: / (full|main)$/ },
  thin: { label: 'Thin', words: / (thin|light|stripped|no (kick|drums|bass|melody|hats?|snare))$/ },
  variation: { label: 'Variation', words: / ([b-d]\d?|a[2-9]|(var|variation|alt)( ?\d+)?)$/ },
  fill: { label: 'Fill', words: / fill( ?\d+)?$/ },
  intro: { label: 'Intro', words: / intro( ?\d+)?$/ },
  ending: { label: 'Ending', words: / (ending|end|outro)( ?\d+)?$/ },
};

/** @returns a key of `setRoles`; null where the name says nothing of it */
export function setRoleOf(fileName: string): string | null {
  const words = nameWords(fileName.replace(/\.[A-Za-z0-9]{1,5}$/, ''))
    .toLowerCase()
    .replace(/ \d{2,3} ?bpm/, '');
  return Object.entries(setRoles).find(([, role]) => role.words.test(words))?.[0] ?? null;
}
