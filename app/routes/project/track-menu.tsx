import * as Menu from '@radix-ui/react-dropdown-menu';
import { MoreHorizontal } from 'lucide-react';
import { duplicateTrack, moveTrack } from '~core/arrangement/acts/clips';
import type { Edit } from '~core/arrangement/edit';
import type { Project, Track } from '~core/arrangement/tree';
import { newId } from '~/ui/new-id';
import { useProjectStore } from '~/ui/project-store';
import { toast } from '~/ui/toast';

const item = 'cursor-pointer rounded-sm px-2 py-1 outline-none data-highlighted:bg-base-300';

/** What can be done with a track as a whole. */
export function TrackMenu({ project, track, onRemove }: { project: Project; track: Track; onRemove: () => void }) {
  const store = useProjectStore();
  const make = (edit: Edit | null, otherwise: string) => {
    const wrong = edit ? store.edit(edit) : otherwise;
    if (wrong) toast(wrong);
  };
  return (
    <Menu.Root modal={false}>
      <Menu.Trigger className="btn btn-ghost btn-xs btn-square" aria-label={`More for the track ${track.name}`}>
        <MoreHorizontal className="size-4" />
      </Menu.Trigger>
      <Menu.Portal>
        <Menu.Content align="start" className="panel z-30 min-w-40 bg-base-100 p-1 shadow-sm">
          <Menu.Item className={item} onSelect={() => make(moveTrack(project, track.id, -1), 'It is the first already.')}>
            Up
          </Menu.Item>
          <Menu.Item className={item} onSelect={() => make(moveTrack(project, track.id, 1), 'It is the last already.')}>
            Down
          </Menu.Item>
          <Menu.Item className={item} onSelect={() => make(duplicateTrack(project, track.id, newId), 'It is gone.')}>
            Once more, below
          </Menu.Item>
          <Menu.Separator className="my-1 h-px bg-base-300" />
          <Menu.Item className={item} onSelect={onRemove}>
            Remove
          </Menu.Item>
        </Menu.Content>
      </Menu.Portal>
    </Menu.Root>
  );
}
