import { evidence, type Evidence } from '../analysis/facts';
import { movableKey, type LoopSource } from '../arrangement/fit-request';
import { ofLoop, patternOf, type Project } from '../arrangement/tree';
import { keyName, sameKey } from '../theory/key';
import { beatsPerBar } from '../units/time';

/**
 * What is known of a loop because of the project it was made in: exactly, as nobody has to hear it.
 * Its key is that of the piece where something in it was brought into it: drums have none, and what was left in its own may be in any.
 */
export function factsOfPart(part: Project, lengthBeats: number, projectName: string, sources: readonly LoopSource[]): Evidence[] {
  const byId = new Map(sources.map((source) => [source.loopId, source])),
    // Of two keys it is in neither.
    staysInKey = part.sections.every(({ key }) => !key || sameKey(key, part.key)),
    isInKey = part.tracks.some(({ clips }) =>
      clips.some((clip) => {
        const source = ofLoop(byId, clip),
          pattern = patternOf(part, clip),
          key = source ? movableKey(source) : pattern && !pattern.isDrums ? pattern.key : null;
        return clip.followKey && key !== null;
      }),
    );
  const known = <A extends Parameters<typeof evidence>[0]>(attribute: A, value: unknown, words: string) =>
    evidence(attribute, 'project', [{ value: value as never, probability: 1 }], words);
  return [
    known('tempo', part.tempoBpm, `made at ${part.tempoBpm} in “${projectName}”`),
    known('beats', lengthBeats, `${Number((lengthBeats / beatsPerBar(part.meter)).toFixed(2))} bars of “${projectName}”`),
    known('meter', part.meter, `“${projectName}” is in ${part.meter}`),
    known('start', 0, 'it begins on its first bar'),
    ...(isInKey && part.key && staysInKey
      ? [known('key', { tonic: part.key.tonic, mode: part.key.mode }, `“${projectName}” is in ${keyName(part.key)}`)]
      : []),
  ];
}

/** What is known of a take that was recorded over a project, from its first beat on. @param tempoBpm null: it was recorded by itself */
export const factsOfTake = (tempoBpm: number | null): Evidence[] =>
  tempoBpm === null
    ? []
    : [
        evidence('tempo', 'project', [{ value: tempoBpm, probability: 1 }], `recorded over a project at ${tempoBpm}`),
        evidence('start', 'project', [{ value: 0, probability: 1 }], 'it begins with the first beat of the project'),
      ];
