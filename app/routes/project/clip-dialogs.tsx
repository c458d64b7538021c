import { findClip, type Project } from '~core/arrangement/tree';
import { AccentDialog } from './accent-dialog';
import type { ClipDialog } from './clip-keys';
import { askedOfClips } from './give-back';
import { GiveBackDialog } from './give-back-dialog';
import { InsteadPanel } from './instead-panel';
import type { ClipActs } from './use-acts';
import { VaryDialog } from './vary-dialog';

/** The dialog of an act that asks for more; of several clips the first is shown, and all are changed. */
export function ClipDialogs({
  dialog,
  projectId,
  project,
  chosen,
  acts,
  onClose,
}: {
  dialog: ClipDialog;
  projectId: number;
  project: Project;
  chosen: readonly string[];
  acts: ClipActs;
  onClose: () => void;
}) {
  const found = findClip(project, chosen[0]);
  if (!found) return null;
  switch (dialog) {
    case 'notes':
      return null;
    case 'accent':
      return <AccentDialog project={project} clip={found.clip} acts={acts} onClose={onClose} />;
    case 'vary':
      return (
        <VaryDialog
          project={project}
          clips={project.tracks.flatMap(({ clips }) => clips.filter(({ id }) => chosen.includes(id)))}
          acts={acts}
          onClose={onClose}
        />
      );
    case 'give-back':
      return <GiveBackDialog projectId={projectId} project={project} asked={askedOfClips(project, chosen)} onClose={onClose} />;
    case 'instead':
      return <InsteadPanel key={found.clip.id} project={project} clip={found.clip} chosen={chosen} onClose={onClose} />;
  }
}
