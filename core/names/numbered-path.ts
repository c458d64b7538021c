/**
 * A path that none of `taken` has: as it is, or with a number behind its name, which goes on from one that it has already.
 * @example numberedPath('a/Kick.wav', new Set(['a/Kick.wav'])) // => 'a/Kick (2).wav'
 */
export function numberedPath(path: string, taken: ReadonlySet<string>): string {
  if (!taken.has(path)) return path;
  const [, stem, has, ending] = /^(.*?)(?: \((\d{1,6})\))?(\.[^./]*)?$/s.exec(path) ?? [path, path, undefined, ''];
  for (let number = Math.max(2, Number(has ?? 1) + 1); ; number++) {
    const numbered = `${stem} (${number})${ending ?? ''}`;
    if (!taken.has(numbered)) return numbered;
  }
}
