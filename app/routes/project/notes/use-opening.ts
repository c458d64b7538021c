import { useCallback, useEffect, useRef } from 'react';
import { findClip, ofLoop, type Project } from '~core/arrangement/tree';
import { useProjectStore } from '~/ui/project-store';
import { toast } from '~/ui/toast';
import type { ClipDialog } from '../clip-keys';
import { openingOf } from './open-notes';

/** The clip whose notes are edited, and which of them are in doubt. */
export interface NotesOpen {
  readonly clipId: string;
  readonly doubted?: readonly string[];
}

/** Opens the dialog of an act, or the notes of the first clip that is chosen. */
export function useOpening(
  project: Project,
  there: readonly string[],
  choose: (clipIds: string[]) => void,
  setDrawer: (drawer: NotesOpen) => void,
  setDialog: (dialog: ClipDialog) => void,
): (dialog: ClipDialog) => void {
  const store = useProjectStore(),
    now = useRef({ project, there });
  useEffect(() => {
    now.current = { project, there };
  });
  return useCallback(
    (dialog) => {
      if (dialog !== 'notes') return setDialog(dialog);
      const clip = findClip(now.current.project, now.current.there[0])?.clip;
      if (!clip) return;
      void openingOf(now.current.project, clip, ofLoop(store.store.getState().loops, clip)).then((opening) => {
        if ('wrong' in opening) return void toast(opening.wrong);
        const wrong = opening.edit && store.edit(opening.edit);
        if (wrong) return void toast.error(wrong);
        if (opening.says) toast(opening.says);
        choose([opening.clipId]);
        setDrawer({ clipId: opening.clipId, doubted: opening.doubted });
      });
    },
    [store, choose, setDrawer, setDialog],
  );
}
