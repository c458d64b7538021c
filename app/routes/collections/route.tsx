import { useState } from 'react';
import { Lock, LockOpen } from 'lucide-react';
import { requirePerson } from '~server/http/session.server';
import { collectedIds, listCollections, type CollectionLine } from '~server/services/collections.server';
import { findRowsById } from '~server/services/search.server';
import { api } from '~/ui/api';
import { useLive } from '~/ui/live';
import { RoomLink } from '~/ui/room-link';
import { toast } from '~/ui/toast';
import { useRenewal } from '~/ui/use-renewal';
import { useSend } from '~/ui/use-send';
import { queryInWords } from '~/ui/query-words';
import type { Route } from './+types/route';
import { OrderedLoops } from './ordered-loops';

export const meta: Route.MetaFunction = () => [{ title: 'Collections · Garnetfinch' }];

export async function loader({ request }: Route.LoaderArgs) {
  const person = await requirePerson(request),
    collections = await listCollections(person.id),
    asked = Number(new URL(request.url).searchParams.get('open')),
    open = collections.find(({ id, rule }) => id === asked && rule === null) ?? null,
    ids = open ? await collectedIds(open.id) : [],
    rows = await findRowsById(ids, person.id);
  return { personId: person.id, collections, open, rows: ids.flatMap((id) => rows.find((row) => row.id === id) ?? []) };
}

/** Collections in the order of a tree, with how deep each lies. */
function asTree(collections: readonly CollectionLine[]): { line: CollectionLine; depth: number }[] {
  const known = new Set(collections.map(({ id }) => id)),
    below = (parentId: number | null, depth: number): { line: CollectionLine; depth: number }[] =>
      collections
        // What lies in one that is not shown stands by itself.
        .filter((each) => (each.parentId !== null && known.has(each.parentId) ? each.parentId : null) === parentId)
        .flatMap((line) => [{ line, depth }, ...below(line.id, depth + 1)]);
  return below(null, 0);
}

/** What people keep together: by hand, in an order of their own, or by a rule that goes on finding. */
export default function Collections({ loaderData: { personId, collections, open, rows } }: Route.ComponentProps) {
  const send = useSend(),
    renew = useRenewal(),
    [name, setName] = useState('');
  // Which loops there are, every page asks anew; here what is known of them too.
  useLive('library', ({ loopIds }) => loopIds !== null && void renew());
  const putAway = async ({ id, name: was }: CollectionLine) => {
    if (await send(api.collection(id), 'delete'))
      toast(`Put “${was}” away; its loops stay in the library.`, {
        action: { label: 'Undo', onClick: () => void send(api.collection(id), 'delete', { restore: '1' }) },
      });
  };
  return (
    <div className="mx-auto grid max-w-6xl gap-6 p-5 lg:grid-cols-[26rem_1fr]">
      <section aria-labelledby="collections-title">
        <h1 id="collections-title">Collections</h1>
        <form
          className="mt-3 flex gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            void send(api.collections, 'post', { name }).then((isDone) => isDone && setName(''));
          }}
        >
          <input
            className="input input-sm flex-1"
            aria-label="Name of a new collection"
            placeholder="A new collection"
            maxLength={120}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
          <button className="btn btn-sm btn-primary" disabled={name.trim() === ''}>
            Make it
          </button>
        </form>
        <p className="quiet mt-1">
          Loops come in from the Library: choose some, Edit, “Collection: put into one of mine”. One by a rule is made there too, under
          Searches.
        </p>
        {collections.length === 0 ? (
          <p className="quiet mt-4">None yet.</p>
        ) : (
          <ul className="mt-3 divide-y divide-base-300 border-y border-base-300">
            {asTree(collections).map(({ line, depth }) => (
              <li key={line.id} className="flex min-h-10 items-center gap-2 py-1" style={{ paddingLeft: depth * 18 }}>
                <span className="min-w-0 flex-1">
                  <RoomLink
                    to={line.rule === null ? `/collections?open=${line.id}` : `/?collection=${line.id}`}
                    className={`link block max-w-full truncate font-medium ${open?.id === line.id ? 'underline' : ''}`}
                  >
                    {line.name}
                  </RoomLink>
                  <span className="quiet block">
                    {line.rule === null ? `${line.loops} ${line.loops === 1 ? 'loop' : 'loops'}` : `by a rule: ${queryInWords(line.rule)}`}{' '}
                    · {line.personId === personId ? (line.isPrivate ? 'mine alone' : 'mine, shown to all') : line.person}
                  </span>
                </span>
                {line.personId === personId && (
                  <>
                    <select
                      className="select select-xs w-28"
                      aria-label={`In which collection ${line.name} lies`}
                      value={line.parentId ?? 0}
                      onChange={(event) => void send(api.collection(line.id), 'put', { parentId: event.target.value })}
                    >
                      <option value={0}>in none</option>
                      {collections
                        .filter(({ id, personId: owner }) => id !== line.id && owner === personId)
                        .map(({ id, name: other }) => (
                          <option key={id} value={id}>
                            in {other}
                          </option>
                        ))}
                    </select>
                    <button
                      className="btn btn-ghost btn-xs btn-square"
                      aria-pressed={line.isPrivate}
                      aria-label={`Keep ${line.name} to myself`}
                      title={line.isPrivate ? 'Only I see it; show it to all' : 'All see it; keep it to myself'}
                      onClick={() => void send(api.collection(line.id), 'put', { isPrivate: line.isPrivate ? '0' : '1' })}
                    >
                      {line.isPrivate ? <Lock className="size-4" /> : <LockOpen className="size-4" />}
                    </button>
                    <button className="link" aria-label={`Put ${line.name} away`} onClick={() => void putAway(line)}>
                      put away
                    </button>
                  </>
                )}
              </li>
            ))}
          </ul>
        )}
      </section>
      {open ? (
        <OrderedLoops key={open.id} collection={open} rows={rows} isOwn={open.personId === personId} />
      ) : (
        <p className="quiet mt-12">
          Open a collection to hear it in its order and to change that. A link opens one by a rule in the Library.
        </p>
      )}
    </div>
  );
}
