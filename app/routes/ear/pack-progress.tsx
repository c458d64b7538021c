import { RoomLink } from '~/ui/room-link';
import type { PackInDoubt } from '~server/services/doubts.server';

/** How far each pack is; one is looked at by itself. */
export function PackProgress({
  packs,
  packId,
  addressOf,
}: {
  packs: readonly PackInDoubt[];
  packId: number | null;
  addressOf: (packId: number | null) => string;
}) {
  return (
    <details className="relative">
      <summary className="btn btn-sm">
        {packId === null ? 'All packs' : (packs.find(({ id }) => id === packId)?.name ?? 'A pack with nothing in doubt')} ▾
      </summary>
      <ul className="panel absolute right-0 z-30 mt-1 max-h-96 w-80 overflow-y-auto p-2 shadow-md" aria-label="Packs with doubts">
        <li>
          <RoomLink className="link" to={addressOf(null)} aria-current={packId === null ? 'page' : undefined}>
            All packs
          </RoomLink>
        </li>
        {packs.map(({ id, name, doubts, facts }) => (
          <li key={id} className="py-1">
            <RoomLink className="link w-full" to={addressOf(id)} aria-current={packId === id ? 'page' : undefined}>
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
