import { useMemo, useState } from 'react';
import type { Setting } from '~core/arrangement/plan';
import { findClip, type Project } from '~core/arrangement/tree';
import { sameKey } from '~core/theory/key';

/** What of the chosen clips is there still. */
export function useThere(project: Project, chosen: readonly string[]) {
  return useMemo(() => {
    const clipsChosen = chosen.flatMap((id) => findClip(project, id)?.clip ?? []),
      there = clipsChosen.map(({ id }) => id);
    return { there, chosenSet: new Set(there), clipsChosen };
  }, [project, chosen]);
}

/** Tempo, keys and chords; the same object as long as none changes, so that no lane is drawn anew. */
export function useSetting(project: Project): Setting {
  const [setting, setSetting] = useState<Setting>(project);
  if (
    setting.tempoBpm === project.tempoBpm &&
    sameKey(setting.key, project.key) &&
    setting.sections === project.sections &&
    setting.chords === project.chords &&
    setting.meter === project.meter
  )
    return setting;
  setSetting(project);
  return project;
}
