import { useEffect, useRef } from 'react';
import { useNavigation, useRevalidator, useSearchParams } from 'react-router';
import { rangeParameter, writeHeardRange } from '~contracts/heard-range';
import { projectEndBeat } from '~core/arrangement/tree';
import { useEngineState } from '~/audio/hooks';
import { useProject } from '~/ui/project-store';

const gatherMs = 300;

/**
 * Lets the fit be reckoned anew as the project is changed, or another range of it is chosen to be heard. It draws nothing: who watches the router
 * is drawn anew with each of its steps, and so is all that stands in it.
 */
export function FreshFit(): null {
  const { revalidate } = useRevalidator(),
    { state: onItsWay } = useNavigation(),
    [parameters, setParameters] = useSearchParams(),
    project = useProject((state) => state.project),
    save = useProject((state) => state.save),
    saved = useRef(save),
    range = useEngineState((state) => state.range),
    isWhole = !project || !range || (range.startBeat === 0 && range.endBeat >= projectEndBeat(project) - 1e-6),
    wanted = isWhole ? null : writeHeardRange({ startBeat: range.startBeat, lengthBeats: range.endBeat - range.startBeat });
  useEffect(() => {
    const was = saved.current;
    saved.current = save;
    if (save !== 'saved' || was === 'saved') return;
    const pause = setTimeout(() => void revalidate(), gatherMs);
    return () => clearTimeout(pause);
  }, [save, revalidate]);
  useEffect(() => {
    // What is on its way comes first: said by the address of now, the range would bring back what is just being left.
    if (onItsWay !== 'idle' || parameters.get(rangeParameter) === wanted) return;
    const pause = setTimeout(
      () =>
        setParameters(
          (now) => {
            if (wanted === null) now.delete(rangeParameter);
            else now.set(rangeParameter, wanted);
            return now;
          },
          { replace: true, preventScrollReset: true },
        ),
      gatherMs,
    );
    return () => clearTimeout(pause);
  }, [wanted, parameters, setParameters, onItsWay]);
  return null;
}
