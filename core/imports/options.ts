import { fold } from '../names/fold';

/** What becomes of a file whose bytes the library has already: nothing comes in; the one that is there belongs to this pack as well; a second one. */
export const duplicateWays = ['skip', 'link', 'keep'] as const;
export type DuplicateWay = (typeof duplicateWays)[number];

const most = 20,
  longest = 60;

/** Names in a text, parted by commas or lines: each once, without empty ones. @example namesOf('Night, rain,,night') // => ['night', 'rain'] */
export function namesOf(text: string): string[] {
  const names = text
    .split(/[,\n]/)
    .map((name) => name.trim().toLowerCase().slice(0, longest))
    .filter(Boolean);
  return [...new Set(names)].slice(0, most);
}

/**
 * Whether a file is to be left out: it lies in a folder of such a name, anywhere above it, or has such an ending.
 * @param leaveOut folder names, or endings with a dot: `midi files`, `.mid`
 */
export function isLeftOut(path: string, leaveOut: readonly string[]): boolean {
  const parts = path.split('/').map(fold),
    file = parts.pop() ?? '';
  return leaveOut.map(fold).some((name) => (name.startsWith('.') ? file.endsWith(name) : parts.includes(name)));
}
