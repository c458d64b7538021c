import { useEffect } from 'react';
import { applyEdit, type Edit } from '~core/arrangement/edit';
import type { Project } from '~core/arrangement/tree';
import type { WholeLoop } from '~contracts/whole-loop';
import { useEngine } from '~/audio/hooks';
import { useProject, useProjectStore } from '~/ui/project-store';
import { toast } from '~/ui/toast';

/** What an act would make, with the loops that it brings in. */
export interface Wanted {
  readonly edit: Edit | null;
  readonly rows?: readonly WholeLoop[];
}

/**
 * Lets be heard what an act would make, before it is kept: the piece plays on with it. Whoever gives it another `key` for each wish ends what was
 * heard of the one before.
 */
export function HearIt({
  project,
  fromBeat,
  make,
  className = 'btn-sm mt-3',
}: {
  project: Project;
  fromBeat: number;
  make: () => Wanted | Promise<Wanted>;
  className?: string;
}) {
  const store = useProjectStore(),
    engine = useEngine(),
    isHeard = useProject((state) => state.preview !== null);
  useEffect(() => () => store.hearInstead(null), [store]);
  const hear = async () => {
    if (isHeard) return store.hearInstead(null);
    const { edit, rows = [] } = await make();
    if (!edit) return void toast('Nothing would change.');
    store.hearInstead(applyEdit(project, edit).project, rows);
    engine.seek(fromBeat);
    void engine.play();
  };
  return (
    <button type="button" className={`btn ${className} ${isHeard ? 'btn-accent' : ''}`} aria-pressed={isHeard} onClick={() => void hear()}>
      {isHeard ? 'Hear it as it is' : 'Hear it'}
    </button>
  );
}
