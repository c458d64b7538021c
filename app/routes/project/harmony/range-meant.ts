import { projectEndBeat, type Project } from '~core/arrangement/tree';
import { beatsPerBar } from '~core/units/time';
import { useEngine, useEngineState } from '~/audio/hooks';

export interface RangeMeant {
  readonly fromBeat: number;
  readonly toBeat: number;
  /** `bars 1–8`, or `all bars`. */
  readonly words: string;
}

/** The stretch that is meant by what is done to chords: the range that is chosen, else the whole piece, eight bars where there is nothing yet. */
export function useRangeMeant(project: Project): RangeMeant {
  const engine = useEngine(),
    range = useEngineState((state) => state.range) && engine.chosenRange,
    bar = beatsPerBar(project.meter),
    toBeat = range?.endBeat ?? (Math.ceil(projectEndBeat(project) / bar - 1e-6) * bar || 8 * bar),
    fromBeat = range?.startBeat ?? 0,
    [first, last] = [Math.floor(fromBeat / bar + 1e-6) + 1, Math.ceil(toBeat / bar - 1e-6)];
  return { fromBeat, toBeat, words: first === last ? `bar ${first}` : `bars ${first}–${last}` };
}
