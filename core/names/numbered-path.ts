/**
 * A path that none of `taken` has: as it is, or with a number behind its name.
 * @example numberedPath('a/Kick.wav', new Set(['a/Kick.wav'])) // => 'a/Kick (2).wav'
 */
export function numberedPath(path: string, taken: ReadonlySet<string>): string {
  if (!taken.has(path)) return path;
  const [, stem, ending] = /^(.*?)(\.[^./]*)?$/s.exec(path) ?? [path, path, ''];
  for (let number = 2; ; number++) {
    const numbered = `${stem} (${number})${ending ?? ''}`;
    if (!taken.has(numbered)) return numbered;
  }
}
