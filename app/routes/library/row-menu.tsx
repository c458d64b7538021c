import { useState } from 'react';
import * as Menu from '@radix-ui/react-dropdown-menu';
import { MoreHorizontal, Star } from 'lucide-react';
import type { LoopCard } from '~contracts/loop-card';
import { characterWays, type Near } from '~core/search/query';
import { RoomLink } from '~/ui/room-link';

/** What can be looked for from a row, and what one thinks of it. */
export interface RowMenuActs {
  readonly near: (near: Near) => void;
  readonly rate: (row: LoopCard, stars: number | null) => void;
  readonly note: (row: LoopCard) => void;
  readonly show: (chosen: Readonly<Record<string, readonly string[]>>) => void;
}

const item = 'flex cursor-pointer items-center gap-2 rounded-sm px-2 py-1 outline-none data-highlighted:bg-base-300';

export function RowMenu({ row, acts, onPlace }: { row: LoopCard; acts: RowMenuActs; onPlace: () => void }) {
  const [isAsked, setAsked] = useState(false),
    button = { tabIndex: -1, className: 'btn btn-ghost btn-xs btn-square', 'aria-label': `More for ${row.title}` };
  // Of a list's many rows few are ever asked: until then a button is enough.
  if (!isAsked)
    return (
      <button
        {...button}
        aria-haspopup="menu"
        onClick={(event) => {
          event.stopPropagation();
          setAsked(true);
        }}
      >
        <MoreHorizontal className="size-4" />
      </button>
    );
  return (
    <Menu.Root modal={false} defaultOpen>
      <Menu.Trigger {...button} onClick={(event) => event.stopPropagation()}>
        <MoreHorizontal className="size-4" />
      </Menu.Trigger>
      <Menu.Portal>
        <Menu.Content
          align="end"
          collisionPadding={8}
          className="panel z-30 min-w-56 bg-base-100 p-1 shadow-sm"
          onClick={(event) => event.stopPropagation()}
          onKeyDown={(event) => event.stopPropagation()}
        >
          <Menu.Item className={item} onSelect={onPlace}>
            Place … <kbd className="kbd kbd-xs ml-auto">Enter</kbd>
          </Menu.Item>
          <Menu.Item className={item} onSelect={() => acts.near({ kind: 'like', ids: [row.id], sound: 1, rhythm: 0, harmony: 0 })}>
            More like this <kbd className="kbd kbd-xs ml-auto">L</kbd>
          </Menu.Item>
          <Menu.Item className={item} onSelect={() => acts.near({ kind: 'like', ids: [row.id], sound: 0, rhythm: 1, harmony: 0 })}>
            The same rhythm
          </Menu.Item>
          {row.source.pitched && (
            <Menu.Item className={item} onSelect={() => acts.near({ kind: 'like', ids: [row.id], sound: 0, rhythm: 0, harmony: 1 })}>
              The same harmony
            </Menu.Item>
          )}
          <Menu.Item className={item} onSelect={() => acts.near({ kind: 'with', ids: [row.id] })}>
            What goes with it <kbd className="kbd kbd-xs ml-auto">G</kbd>
          </Menu.Item>
          {row.source.media === 'audio' && (
            <Menu.Item className={item} asChild>
              <RoomLink to={`/workbench/${row.id}`}>On the workbench</RoomLink>
            </Menu.Item>
          )}
          {row.setId !== null && (
            <Menu.Item className={item} onSelect={() => acts.show({ set: [String(row.setId)] })}>
              Its set
            </Menu.Item>
          )}
          <Menu.Separator className="my-1 h-px bg-base-300" />
          <div className="grid grid-cols-2">
            {characterWays.map((way) => (
              <Menu.Item key={way} className={item} onSelect={() => acts.near({ kind: 'than', id: row.id, way })}>
                {way}
              </Menu.Item>
            ))}
          </div>
          <Menu.Separator className="my-1 h-px bg-base-300" />
          <div className="flex items-center px-1" role="group" aria-label="Stars">
            {[1, 2, 3, 4, 5].map((stars) => (
              <Menu.Item
                key={stars}
                className={`${item} px-1`}
                aria-label={row.stars === stars ? `Take the ${stars} stars away` : `${stars} ${stars === 1 ? 'star' : 'stars'}`}
                onSelect={() => acts.rate(row, row.stars === stars ? null : stars)}
              >
                <Star className="size-4" fill={(row.stars ?? 0) >= stars ? 'var(--color-accent)' : 'none'} />
              </Menu.Item>
            ))}
          </div>
          <Menu.Item className={item} onSelect={() => acts.note(row)}>
            {row.note ? `Note: ${row.note.slice(0, 30)}` : 'Write a note …'}
          </Menu.Item>
        </Menu.Content>
      </Menu.Portal>
    </Menu.Root>
  );
}
