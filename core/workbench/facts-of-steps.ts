import { evidence, type Evidence } from '../analysis/facts';
import { keyName } from '../theory/key';
import { settingAfter, type BenchSetting, type Step } from './steps';

/** Steps behind which what was known of the notes is no longer so. */
const movesNotes: ReadonlySet<Step['kind']> = new Set(['line', 'layers']);

/** What is known of what comes off the bench, by what it was and what was done to it. */
export function factsOfSteps(steps: readonly Step[], setting: BenchSetting, title: string): Evidence[] {
  const after = settingAfter(steps, setting),
    said = steps.some((step) => step.kind === 'part' && step.beats !== null),
    isCut = steps.some((step) => step.kind === 'part'),
    known = <A extends Parameters<typeof evidence>[0]>(attribute: A, value: unknown, words: string) =>
      evidence(attribute, 'project', [{ value: value as never, probability: 1 }], words);
  return [
    ...(after.tempoBpm === null
      ? []
      : [known('tempo', after.tempoBpm, said ? 'from the bars that were said of it on the bench' : `made of “${title}”`)]),
    ...(after.beats === null || (isCut && !said) ? [] : [known('beats', after.beats, 'so long it was made on the bench')]),
    ...(isCut ? [known('start', 0, 'it begins where it was cut')] : []),
    ...(after.key && !steps.some(({ kind }) => movesNotes.has(kind))
      ? [known('key', after.key, `“${title}”, moved to ${keyName(after.key)}`)]
      : []),
  ];
}
