import { useEffect, useMemo, useState } from 'react';
import { ChevronDown, ChevronRight } from 'lucide-react';
import { queryToParameters, type LoopQuery } from '~core/search/query';
import { inRoom } from '~contracts/room-address';
import { askingInOrder } from '~/ui/ask';
import { useProject } from '~/ui/project-store';
import type { Found } from '~server/services/look-up.server';
import { LoopList } from './loop-list';

const shownAtFirst = 200;

/** The result by pack or by set, the group of the first row first; each opens to its own rows. */
export function GroupsView({
  by,
  query,
  groups,
  onChange,
}: {
  by: 'pack' | 'set';
  query: LoopQuery;
  groups: Found['groups'];
  onChange: (changes: Partial<LoopQuery>) => void;
}) {
  const [openId, setOpenId] = useState<number | null>(null),
    [open, setOpen] = useState<{ readonly id: number; readonly query: LoopQuery; readonly found: Found } | null>(null),
    [inOrder] = useState(askingInOrder),
    [shown, setShown] = useState(shownAtFirst),
    projectId = useProject((state) => state.id);
  const own = useMemo(
    () => (openId === null ? null : { id: openId, query: { ...query, chosen: { ...query.chosen, [by]: [String(openId)] } } }),
    [openId, query, by],
  );
  // Again with other steps of the search, and whenever the groups have come anew: the open one shows what its head counts.
  useEffect(() => {
    if (own === null) return;
    const address = inRoom(`/api/v1/loops?${new URLSearchParams(queryToParameters(own.query))}`, projectId);
    void inOrder<Found>(address).then((found) => found && setOpen({ ...own, found }));
  }, [own, groups, projectId, inOrder]);
  if (groups === null) return <p className="quiet p-5">The library is still being read; groups come in a moment.</p>;
  if (groups.length === 0) return <p className="quiet p-5">Nothing fits all of that. Take a step back with Backspace.</p>;
  return (
    <section aria-label={by === 'pack' ? 'Packs' : 'Sets'} className="flex min-h-0 flex-1 flex-col overflow-y-auto">
      <ul>
        {groups.slice(0, shown).map(({ id, name, count }) => {
          const isOpen = openId === id,
            canOpen = by === 'pack' || id > 0;
          return (
            <li key={id} className="border-b border-base-300">
              <button
                className="flex h-9 w-full items-center gap-2 px-3 text-left hover:bg-base-200 disabled:opacity-100"
                aria-expanded={canOpen ? isOpen : undefined}
                disabled={!canOpen}
                onClick={() => setOpenId(isOpen ? null : id)}
              >
                {isOpen ? <ChevronDown className="size-4" aria-hidden="true" /> : <ChevronRight className="size-4" aria-hidden="true" />}
                <span className="min-w-0 flex-1 truncate font-medium">{name || (by === 'set' ? 'of no set' : 'no name')}</span>
                <span className="quiet">
                  {count.toLocaleString('en')} {count === 1 ? 'loop' : 'loops'}
                </span>
              </button>
              {isOpen && open?.id === id && (
                <div className="flex flex-col" style={{ height: Math.min(460, 64 + open.found.total * 42) }}>
                  <LoopList query={open.query} first={open.found} total={open.found.total} onChange={onChange} />
                </div>
              )}
            </li>
          );
        })}
      </ul>
      {groups.length > shown && (
        <button className="btn btn-sm m-3 self-start" onClick={() => setShown(shown + shownAtFirst)}>
          {(groups.length - shown).toLocaleString('en')} more
        </button>
      )}
    </section>
  );
}
