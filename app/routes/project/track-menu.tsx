import * as Menu from '@radix-ui/react-dropdown-menu';
import { MoreHorizontal } from 'lucide-react';
import type { TrackChanges } from '~core/arrangement/edit';
import { trackColourCount, type Track } from '~core/arrangement/tree';
import { RoomLink } from '~/ui/room-link';
import type { TrackSize } from './measures';
import { whatGoesWith } from './what-goes-with';

/** What a track's head asks of the timeline. */
export interface TrackHands {
  readonly choose: (trackId: string, adds: boolean) => void;
  readonly change: (trackId: string, changes: TrackChanges) => void;
  /** Levels that are still being looked for. */
  readonly hear: (trackId: string, changes: Partial<Pick<Track, 'gainDb' | 'pan'>>) => void;
  readonly move: (trackId: string, by: 1 | -1) => void;
  readonly duplicate: (trackId: string) => void;
  readonly chooseClips: (trackId: string) => void;
  readonly resize: (trackId: string, size: TrackSize) => void;
  readonly giveBack: (trackId: string) => void;
  readonly remove: (trackId: string) => void;
}

export const menuItem = 'flex cursor-pointer justify-between gap-6 rounded-sm px-2 py-1 outline-none data-highlighted:bg-base-300';
export const menuPanel = 'panel z-30 min-w-44 bg-base-100 p-1 shadow-sm';

/** What can be done with a track as a whole. */
export function TrackMenu({ track, size, hands }: { track: Track; size: TrackSize; hands: TrackHands }) {
  return (
    <Menu.Root modal={false}>
      <Menu.Trigger className="btn btn-ghost btn-xs btn-square" aria-label={`More for the track ${track.name}`}>
        <MoreHorizontal className="size-4" />
      </Menu.Trigger>
      <Menu.Portal>
        <Menu.Content align="start" className={menuPanel}>
          <Menu.Item className={menuItem} onSelect={() => hands.chooseClips(track.id)}>
            Choose its clips
          </Menu.Item>
          <Menu.Item className={menuItem} onSelect={() => hands.resize(track.id, size === 'small' ? 'large' : 'small')}>
            {size === 'small' ? 'Draw it large' : 'Draw it small'}
          </Menu.Item>
          <Menu.Item className={menuItem} onSelect={() => hands.change(track.id, { colour: (track.colour + 1) % trackColourCount })}>
            Next colour
          </Menu.Item>
          <Menu.Separator className="my-1 h-px bg-base-300" />
          <Menu.Item className={menuItem} onSelect={() => hands.move(track.id, -1)}>
            Up
          </Menu.Item>
          <Menu.Item className={menuItem} onSelect={() => hands.move(track.id, 1)}>
            Down
          </Menu.Item>
          <Menu.Item className={menuItem} onSelect={() => hands.duplicate(track.id)}>
            Duplicate
          </Menu.Item>
          <Menu.Separator className="my-1 h-px bg-base-300" />
          <Menu.Item className={menuItem} asChild>
            <RoomLink to={whatGoesWith([track.id])}>Find what goes with it</RoomLink>
          </Menu.Item>
          <Menu.Item className={menuItem} onSelect={() => hands.giveBack(track.id)}>
            Give back to the library …
          </Menu.Item>
          <Menu.Item className={menuItem} onSelect={() => hands.change(track.id, { setAside: true })}>
            Set aside
          </Menu.Item>
          <Menu.Item className={menuItem} onSelect={() => hands.remove(track.id)}>
            Remove
          </Menu.Item>
        </Menu.Content>
      </Menu.Portal>
    </Menu.Root>
  );
}
