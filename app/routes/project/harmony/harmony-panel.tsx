import { X } from 'lucide-react';
import type { Project } from '~core/arrangement/tree';
import { keepKeys } from '~/ui/keep-keys';
import { ChordTools } from './chord-tools';
import { KeyTools } from './key-tools';
import { RubsList } from './rubs-list';

/** The harmony of the piece: its chords, its key, and where notes rub. */
export function HarmonyPanel({
  project,
  chosenClipIds,
  onChooseClips,
  onClose,
}: {
  project: Project;
  chosenClipIds: readonly string[];
  onChooseClips: (clipIds: string[]) => void;
  onClose: () => void;
}) {
  return (
    <section
      aria-labelledby="harmony-title"
      className="relative grid max-h-[40%] min-h-40 shrink-0 grid-cols-[1.35fr_1fr_1fr] gap-x-6 overflow-y-auto border-t border-base-300 bg-base-100 px-3 py-2"
      onKeyDown={keepKeys}
    >
      <h2 id="harmony-title" className="sr-only">
        Harmony
      </h2>
      <ChordTools project={project} chosenClipIds={chosenClipIds} />
      <KeyTools project={project} chosenClipIds={chosenClipIds} />
      <RubsList project={project} onChooseClips={onChooseClips} />
      <button className="btn btn-ghost btn-xs btn-square absolute top-1.5 right-2" aria-label="Close harmony" onClick={onClose}>
        <X className="size-3.5" />
      </button>
    </section>
  );
}
