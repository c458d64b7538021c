import { useState } from 'react';
import { api } from '~/ui/api';
import { askingInOrder } from '~/ui/ask';
import { RoomLink } from '~/ui/room-link';
import type { PackInDoubt } from '~server/services/doubts.server';

/** How far each pack is; one is looked at by itself. Counted when it is opened. */
export function PackProgress({
  pack,
  addressOf,
}: {
  /** The one that is looked at; null for all. */
  pack: { readonly id: number; readonly name: string } | null;
  addressOf: (packId: number | null) => string;
}) {
  const [packs, setPacks] = useState<readonly PackInDoubt[] | null>(null),
    [inOrder] = useState(askingInOrder),
    count = () => void inOrder<{ packs: PackInDoubt[] }>(api.doubtsPacks).then((answer) => answer && setPacks(answer.packs));
  return (
    <details className="relative" onToggle={(event) => event.currentTarget.open && count()}>
      <summary className="btn btn-sm">{pack?.name ?? 'All packs'} ▾</summary>
      <ul className="panel absolute right-0 z-30 mt-1 max-h-96 w-80 overflow-y-auto p-2 shadow-md" aria-label="Packs with doubts">
        <li>
          <RoomLink className="link" to={addressOf(null)} aria-current={pack === null ? 'page' : undefined}>
            All packs
          </RoomLink>
        </li>
        {!packs && <li className="quiet">counting …</li>}
        {packs?.map(({ id, name, doubts, facts }) => (
          <li key={id} className="py-1">
            <RoomLink className="link w-full" to={addressOf(id)} aria-current={pack?.id === id ? 'page' : undefined}>
              <span className="min-w-0 flex-1 truncate">{name}</span>
              <span className="ml-2 shrink-0 tabular-nums">{doubts} left</span>
            </RoomLink>
            <progress
              className="progress progress-primary block h-1.5 w-full"
              value={facts - doubts}
              max={Math.max(1, facts)}
              aria-label={`${name}: ${facts - doubts} of ${facts} facts are sure`}
            />
          </li>
        ))}
      </ul>
    </details>
  );
}
