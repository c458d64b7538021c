import { useState } from 'react';
import { useRevalidator } from 'react-router';
import { api, refusalOf } from '~/ui/api';
import { RoomLink } from '~/ui/room-link';
import { toast } from '~/ui/toast';
import type { CollectionLine } from '~server/services/collections.server';

/** What people keep together by hand. */
export function Collections({ collections, personId }: { collections: readonly CollectionLine[]; personId: number }) {
  const { revalidate } = useRevalidator(),
    [renaming, setRenaming] = useState<number | null>(null);
  const send = async (id: number, method: 'put' | 'delete', fields: Record<string, string>): Promise<boolean> => {
    const response = await fetch(api.collection(id), { method, body: new URLSearchParams(fields) }).catch(() => null);
    if (!response?.ok) toast.error(refusalOf(await response?.json().catch(() => null)) ?? 'The server did not answer.');
    void revalidate();
    return response?.ok === true;
  };
  const putAway = async ({ id, name }: CollectionLine) => {
    if (await send(id, 'delete', {}))
      toast(`Put “${name}” away; its loops stay in the library.`, {
        action: { label: 'Undo', onClick: () => void send(id, 'delete', { restore: '1' }) },
      });
  };
  return (
    <section aria-labelledby="collections-title" className="mt-6">
      <h2 id="collections-title">Collections</h2>
      {collections.length === 0 ? (
        <p className="quiet mt-1">
          None yet. Choose loops in the Library (X, or ctrl and click), Edit, “Collection: put into one of mine”.
        </p>
      ) : (
        <ul className="mt-1 divide-y divide-base-300 border-y border-base-300">
          {collections.map((collection) => (
            <li key={collection.id} className="flex min-h-9 items-center gap-3">
              {renaming === collection.id ? (
                <form
                  className="flex flex-1 items-center gap-2"
                  onSubmit={(event) => {
                    event.preventDefault();
                    const name = String(new FormData(event.currentTarget).get('name') ?? '');
                    void send(collection.id, 'put', { name }).then((isDone) => isDone && setRenaming(null));
                  }}
                >
                  <input
                    name="name"
                    className="input input-sm flex-1"
                    aria-label="Name"
                    defaultValue={collection.name}
                    autoFocus
                    maxLength={120}
                  />
                  <button className="btn btn-xs btn-primary">Save</button>
                  <button type="button" className="btn btn-xs" onClick={() => setRenaming(null)}>
                    Cancel
                  </button>
                </form>
              ) : (
                <>
                  <RoomLink to={`/?collection=${collection.id}`} className="link min-w-0 truncate font-medium">
                    {collection.name}
                  </RoomLink>
                  <span className="quiet flex-1">
                    {collection.loops} {collection.loops === 1 ? 'loop' : 'loops'} · {collection.person}
                  </span>
                  {collection.personId === personId && (
                    <>
                      <button className="link" aria-label={`Rename ${collection.name}`} onClick={() => setRenaming(collection.id)}>
                        rename
                      </button>
                      <button className="link" aria-label={`Put ${collection.name} away`} onClick={() => void putAway(collection)}>
                        put away
                      </button>
                    </>
                  )}
                </>
              )}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
