import { useRef } from 'react';
import { formatDistanceToNowStrict } from 'date-fns';
import { Copy, Ear } from 'lucide-react';
import { api } from '~/ui/api';
import { RoomLink } from '~/ui/room-link';
import { toast } from '~/ui/toast';
import { useArchivePack } from '~/ui/use-archive-pack';
import { useSend } from '~/ui/use-send';
import { families, type Family } from '~core/theory/instruments';
import { countParam } from '~server/http/input.server';
import { requirePerson } from '~server/http/session.server';
import { countDoubts } from '~server/services/doubts.server';
import { listFolders } from '~server/services/folders/folders.server';
import { countTwins } from '~server/services/twins.server';
import { listBatches, listOpenBatches, listVendorHabits } from '~server/services/imports/progress.server';
import { countPacks, listPacks, packsAtOnce } from '~server/services/packs.server';
import type { Route } from './+types/route';
import { Cover } from '~/ui/cover';
import { Folders } from './folders';
import { ImportDesk } from './import-desk';

export const meta: Route.MetaFunction = () => [{ title: 'Packs · Garnetfinch' }];

export async function loader({ request }: Route.LoaderArgs) {
  const person = await requirePerson(request);
  const shown = countParam(new URL(request.url).searchParams.get('show'), packsAtOnce, 2000),
    [packs, total, archived, batches, open, habits, twins, doubts, folders] = await Promise.all([
      listPacks(false, shown),
      countPacks(),
      listPacks(true),
      listBatches(),
      listOpenBatches(person.id),
      listVendorHabits(),
      countTwins(),
      countDoubts(),
      listFolders(),
    ]);
  return {
    person: { id: person.id, name: person.name, isKeeper: person.role === 'keeper' },
    packs,
    total,
    archived,
    batches,
    open,
    habits,
    twins,
    folders,
    doubts: Object.values(doubts).reduce((sum, count) => sum + count, 0),
  };
}

/** What came from where, and the desk at which more comes in. */
export default function Packs({ loaderData }: Route.ComponentProps) {
  const { archive, bringBack } = useArchivePack();
  return (
    <div className="mx-auto grid max-w-7xl gap-6 p-5 xl:grid-cols-[1fr_27rem] lg:grid-cols-[1fr_24rem]">
      <section aria-labelledby="packs-title">
        <div className="flex items-center justify-between gap-3">
          <h1 id="packs-title">Packs</h1>
          <span className="flex-1" />
          {loaderData.twins > 0 && (
            <RoomLink to="/packs/twins" className="btn btn-sm">
              <Copy className="size-4" /> Same sound twice <span className="tabular-nums">{loaderData.twins}</span>
            </RoomLink>
          )}
          <RoomLink to="/packs/ear" className="btn btn-sm">
            <Ear className="size-4" /> Needs an ear <span className="tabular-nums">{loaderData.doubts}</span>
          </RoomLink>
        </div>
        {loaderData.packs.length === 0 && <p className="quiet mt-2">No packs yet. Drop a vendor’s zip on the desk.</p>}
        <ul className="mt-3 grid gap-3 md:grid-cols-2">
          {loaderData.packs.map((pack) => (
            <li key={pack.id} className="panel flex gap-3 p-3">
              <Cover
                overviews={pack.overviews}
                family={(pack.families[0]?.family as Family | undefined) ?? 'mix'}
                name={pack.name}
                coverId={pack.coverId}
              />
              <div className="flex min-w-0 flex-1 flex-col">
                <RoomLink to={`/packs/${pack.id}`} className="truncate text-base font-semibold hover:underline">
                  {pack.name}
                </RoomLink>
                <p className="quiet truncate">{pack.vendor || 'vendor not stated'}</p>
                <p className="mt-1 line-clamp-2 text-[0.86rem]" title={pack.description}>
                  {pack.description}
                </p>
                <p className="mt-1 truncate">
                  {pack.families
                    .slice(0, 3)
                    .map(({ family, count }) => `${count} ${families[family as Family].label.toLowerCase()}`)
                    .join(', ')}
                </p>
                <p className="quiet mt-1 text-[0.86rem]" suppressHydrationWarning>
                  {[
                    pack.loops && `${pack.loops} loops`,
                    pack.oneShots && `${pack.oneShots} one-shots and phrases`,
                    pack.notes && `${pack.notes} of them as notes`,
                  ]
                    .filter(Boolean)
                    .join(', ')}{' '}
                  · {pack.addedBy}, {formatDistanceToNowStrict(new Date(pack.addedAt))} ago
                </p>
                {/* What one may do with it is never cut off. */}
                <p className="mt-auto flex items-end gap-2 pt-1 text-[0.86rem]">
                  <span className="min-w-0 flex-1">{pack.licence || <span className="quiet">licence not stated</span>}</span>
                  {(loaderData.person.isKeeper || pack.addedBy === loaderData.person.name) && (
                    <button className="link shrink-0" aria-label={`Archive ${pack.name}`} onClick={() => void archive(pack.id, pack.name)}>
                      archive
                    </button>
                  )}
                </p>
              </div>
            </li>
          ))}
        </ul>
        {loaderData.packs.length < loaderData.total && (
          <p className="mt-3 flex items-center gap-3">
            <span className="quiet">
              The newest {loaderData.packs.length} of {loaderData.total} packs.
            </span>
            <RoomLink to={`?show=${loaderData.packs.length + 48}`} preventScrollReset className="btn btn-sm">
              Show more
            </RoomLink>
          </p>
        )}
        {loaderData.archived.length > 0 && (
          <details className="mt-4">
            <summary className="cursor-pointer">Archived ({loaderData.archived.length})</summary>
            <ul>
              {loaderData.archived.map((pack) => (
                <li key={pack.id} className="flex items-center gap-3 py-1">
                  <span className="flex-1">{pack.name}</span>
                  <button className="btn btn-sm" onClick={() => void bringBack(pack.id)}>
                    Bring back
                  </button>
                  {loaderData.person.isKeeper && <DeleteForGood id={pack.id} name={pack.name} />}
                </li>
              ))}
            </ul>
          </details>
        )}
      </section>
      <div>
        <ImportDesk batches={loaderData.batches} open={loaderData.open} habits={loaderData.habits} />
        <Folders folders={loaderData.folders} habits={loaderData.habits} isKeeper={loaderData.person.isKeeper} />
      </div>
    </div>
  );
}

/** What cannot be taken back is asked twice. */
function DeleteForGood({ id, name }: { id: number; name: string }) {
  const send = useSend(),
    dialog = useRef<HTMLDialogElement>(null);
  const deleteIt = async () => {
    dialog.current?.close();
    const done = await send<{ loops: number; files: number; kept: number }>(api.pack(id), 'delete');
    if (done)
      toast(
        `${done.loops} loops and ${done.files} files of “${name}” deleted${done.kept > 0 ? `; ${done.kept} stay, since projects use them` : ''}.`,
      );
  };
  return (
    <>
      <button className="btn btn-sm" onClick={() => dialog.current?.showModal()}>
        Delete for good …
      </button>
      <dialog ref={dialog} className="modal" aria-label={`Delete ${name} for good`}>
        <div className="modal-box max-w-md">
          <h2>Delete “{name}” for good?</h2>
          <p className="mt-2">
            Its loops, everything known of them and their files go from the server. This cannot be undone. Loops that a project uses stay.
          </p>
          <div className="mt-4 flex justify-end gap-2">
            <button className="btn btn-sm" onClick={() => dialog.current?.close()}>
              Keep it
            </button>
            <button className="btn btn-error btn-sm" onClick={() => void deleteIt()}>
              Delete for good
            </button>
          </div>
        </div>
      </dialog>
    </>
  );
}
