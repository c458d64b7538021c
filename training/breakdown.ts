import { score, type Said } from './score';
import type { Truth } from './truth';

export interface Slice {
  readonly name: string;
  readonly files: number;
  readonly tempo: number | null;
  readonly key: number | null;
  readonly family: number | null;
}

/** Fewer files than this say nothing of a slice. */
const fewest = 8;

/** What a file counts under: its style, its meter, and each condition it is delivered in. */
const slicesOf = ({ style, meter, isLoop, cond, keyStatus, bars }: Truth): string[] => [
  `style ${style.split(':')[0]}`,
  ...(isLoop ? [`meter ${meter}`, `bars ${bars}`] : ['no loop']),
  `key ${keyStatus}`,
  ...cond.filter((each) => !each.startsWith('sf:')),
];

/** How right a detector is by style, by meter, length and key, and by the condition of the file; the weakest in tempo first. */
export function breakdown(truths: readonly Truth[], said: readonly Said[]): Slice[] {
  const groups = new Map<string, Truth[]>();
  for (const truth of truths) for (const name of slicesOf(truth)) groups.set(name, [...(groups.get(name) ?? []), truth]);
  return [...groups]
    .filter(([, files]) => files.length >= fewest)
    .map(([name, files]) => {
      const { tempoExact, keyExact, family } = score(files, said);
      return { name, files: files.length, tempo: tempoExact, key: keyExact, family };
    })
    .sort((a, b) => (a.tempo ?? 101) - (b.tempo ?? 101) || a.name.localeCompare(b.name));
}

/** Tempos that are wrong, by what they are of the right one: octaves, other meters, anything else. */
export function tempoMistakes(truths: readonly Truth[], said: readonly Said[]): Map<string, number> {
  const byFile = new Map(said.map((each) => [each.file, each])),
    counts = new Map<string, number>();
  for (const truth of truths) {
    if (!truth.tempoScored || !truth.tempo) continue;
    const tempo = byFile.get(truth.file)?.tempoBpm;
    if (tempo != null && Math.abs(tempo / truth.tempo - 1) <= 0.005) continue;
    const ratio = tempo == null ? null : tempo / truth.tempo,
      near = (wanted: number) => ratio !== null && Math.abs(ratio / wanted - 1) <= 0.02,
      what =
        ratio === null
          ? 'none said'
          : near(0.5)
            ? 'half'
            : near(2)
              ? 'double'
              : [2 / 3, 3 / 4, 4 / 3, 3 / 2, 1 / 3, 3].some(near)
                ? 'another meter (2 : 3, 3 : 4, 1 : 3)'
                : near(1)
                  ? 'a little off'
                  : 'anything else';
    counts.set(what, (counts.get(what) ?? 0) + 1);
  }
  return new Map([...counts].sort((a, b) => b[1] - a[1]));
}
