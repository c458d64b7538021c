import { useState } from 'react';
import { Archive, Download, Ear, Pencil, Search } from 'lucide-react';
import { formatDistanceToNowStrict } from 'date-fns';
import { data } from 'react-router';
import { useArchivePack } from '~/ui/use-archive-pack';
import { emptyQuery, queryToParameters } from '~core/search/query';
import { families, instrumentById, type Family } from '~core/theory/instruments';
import { useRenewal } from '~/ui/use-renewal';
import { ask, withForm } from '~/ui/ask';
import { api } from '~/ui/api';
import { BarsChart } from '~/ui/charts/bars-chart';
import { FifthsChart } from '~/ui/charts/fifths-chart';
import type { Change } from '~/ui/charts/frame';
import { TempoChart } from '~/ui/charts/tempo-chart';
import { Cover } from '~/ui/cover';
import { hearAnew } from '~/ui/edit-many';
import { useLive } from '~/ui/live';
import { RoomLink, useRoomNavigate } from '~/ui/room-link';
import { soundInWords } from '~/ui/size-words';
import { toast } from '~/ui/toast';
import { idParam } from '~server/http/input.server';
import { requirePerson } from '~server/http/session.server';
import { findDemo } from '~server/services/demo-mix.server';
import { findPackPage, type PackHead, type PackWords } from '~server/services/pack-page.server';
import type { Route } from './+types/route';
import { DemoMix } from './demo-mix';
import { Documents } from './documents';
import { EditDialog } from './edit-dialog';
import { Folders } from './folders';
import { Names } from './names';
import { Sets } from './sets';

export const meta: Route.MetaFunction = ({ loaderData }) => [{ title: `${loaderData?.pack.name ?? 'Pack'} · Garnetfinch` }];

export async function loader({ request, params }: Route.LoaderArgs) {
  const person = await requirePerson(request),
    packId = idParam(params.packId),
    [pack, demo] = await Promise.all([findPackPage(packId, person.id), findDemo(packId)]);
  if (!pack) throw data('There is no pack with that number.', { status: 404 });
  return { pack, demo, mayArchive: person.role === 'keeper' || pack.addedById === person.id };
}

const counted = (count: number, what: string): string => `${count} ${what}${count === 1 ? '' : 's'}`;

const countWords = ({ loops, oneShots, phrases, fullMixes, notes, seconds }: PackHead['counts']): string =>
  [
    loops && counted(loops, 'loop'),
    oneShots && counted(oneShots, 'one-shot'),
    phrases && counted(phrases, 'phrase'),
    fullMixes && (fullMixes === 1 ? '1 full mix' : `${fullMixes} full mixes`),
    notes && `${notes} of them as notes`,
    seconds && `${soundInWords(seconds)} of sound`,
  ]
    .filter(Boolean)
    .join(', ');

/** What came in as one: what is in it, how it sounds together, what is said of it, who uses it. */
export default function PackPage({ loaderData: { pack, demo, mayArchive } }: Route.ComponentProps) {
  const { archive, bringBack } = useArchivePack(),
    navigate = useRoomNavigate(),
    [isEditing, setEditing] = useState(false),
    renew = useRenewal();
  useLive('library', () => void renew());
  const address = `pack=${pack.id}`,
    query = { ...emptyQuery, chosen: { pack: [String(pack.id)] } },
    // A chart of the pack leads to what it shows, in the Library.
    toLibrary: Change = (changes) => navigate(`/?${new URLSearchParams(queryToParameters({ ...query, ...changes }))}`);
  /** Sends what is other than it was shown; what others have said of the rest stays. @returns what is wrong, by field; null when it is taken */
  const save = async (changed: Partial<PackWords>, hasWayBack = true): Promise<Readonly<Record<string, string>> | null> => {
    const fields = Object.fromEntries(Object.entries(changed).map(([name, value]) => [name, value ?? 0]));
    if (Object.keys(fields).length === 0) return null;
    const said = await ask<{ before: Partial<PackWords> }>(api.pack(pack.id), withForm('put', fields));
    if (!said.ok) return Object.keys(said.errors).length > 0 ? said.errors : { name: said.wrong };
    const { before } = said.answer;
    if (hasWayBack && Object.keys(before).length > 0)
      toast('Changed.', { action: { label: 'Undo', onClick: () => void saveOrTell(before, false) } });
    void renew();
    return null;
  };
  /** Where no field is shown beside which it could be said what is wrong. */
  const saveOrTell = async (changed: Partial<PackWords>, hasWayBack = true) => {
    const [wrong] = Object.values((await save(changed, hasWayBack)) ?? {});
    if (wrong) toast.error(wrong);
  };
  const words: PackWords = {
    name: pack.name,
    vendor: pack.vendor,
    licence: pack.licence,
    description: pack.description,
    coverId: pack.coverId,
  };
  const sure = pack.counts.facts > 0 ? Math.round(100 * (1 - pack.counts.doubts / pack.counts.facts)) : 100;
  return (
    <div className="mx-auto max-w-7xl p-5">
      <header className="flex gap-4">
        <Cover
          overviews={pack.overviews}
          family={(pack.instruments[0]?.family as Family | null) ?? 'mix'}
          name={pack.name}
          coverId={pack.coverId}
          className="size-36"
        />
        <div className="flex min-w-0 flex-1 flex-col gap-1">
          <div className="flex flex-wrap items-center gap-2">
            <h1 className="min-w-0 flex-1 truncate">{pack.name}</h1>
            {pack.archived && <span className="badge badge-warning">archived</span>}
            <RoomLink to={`/?${address}`} className="btn btn-sm btn-primary">
              <Search className="size-4" /> Show its loops
            </RoomLink>
            <RoomLink to={`/packs/ear?${address}`} className="btn btn-sm">
              <Ear className="size-4" /> Needs an ear <span>{pack.counts.doubts}</span>
            </RoomLink>
            <button className="btn btn-sm" onClick={() => setEditing(true)}>
              <Pencil className="size-4" /> Edit
            </button>
          </div>
          <p className="quiet">
            {pack.vendor || 'vendor not stated'} · {pack.licence || 'licence not stated'}
          </p>
          <p className="line-clamp-3" title={pack.description}>
            {pack.description || <span className="quiet">no description</span>}
          </p>
          <p>{countWords(pack.counts) || 'nothing in it'}</p>
          <div className="quiet mt-auto flex flex-wrap items-center gap-x-4 gap-y-1">
            <span suppressHydrationWarning>
              brought in by {pack.addedBy}, {formatDistanceToNowStrict(new Date(pack.addedAt))} ago
            </span>
            {pack.linked > 0 && <span>{pack.linked} of them shared with other packs</span>}
            <button className="link" onClick={() => void hearAnew({ address })} title="Analyse all its files again; what people said stays">
              listen to all again
            </button>
            <form method="post" action={api.loopFiles} className="inline">
              <input type="hidden" name="address" value={address} />
              <input type="hidden" name="names" value="vendor" />
              <button className="link">
                <Download className="mr-1 size-3.5" /> get its files
              </button>
            </form>
            {mayArchive && (
              <button className="link" onClick={() => void (pack.archived ? bringBack(pack.id) : archive(pack.id, pack.name))}>
                <Archive className="mr-1 size-3.5" /> {pack.archived ? 'bring back' : 'archive'}
              </button>
            )}
          </div>
        </div>
      </header>
      <div className="mt-5 grid gap-5 lg:grid-cols-[1fr_20rem]">
        <div className="flex min-w-0 flex-col gap-5">
          <DemoMix key={pack.id} packId={pack.id} packName={pack.name} initial={demo} />
          <section className="panel" aria-labelledby="charts-title">
            <h2 id="charts-title" className="sr-only">
              Tempo, keys and lengths
            </h2>
            <div className="grid grid-cols-[1.4fr_1fr_0.9fr] divide-x divide-base-300">
              <TempoChart query={query} counts={pack.facets.tempo} onChange={toLibrary} />
              <FifthsChart query={query} counts={pack.facets.key} onChange={toLibrary} />
              <BarsChart query={query} counts={pack.facets.bars} onChange={toLibrary} />
            </div>
          </section>
          <section className="panel p-3" aria-labelledby="instruments-title">
            <h2 id="instruments-title">Instruments</h2>
            <Instruments rows={pack.instruments} />
          </section>
          {pack.names.length > 0 && <Names packId={pack.id} groups={pack.names} onSaid={() => void renew()} />}
          <div className="grid gap-5 md:grid-cols-2">
            <section className="panel p-3" aria-labelledby="folders-title">
              <h2 id="folders-title">The vendor’s folders</h2>
              {pack.folders.folders.length === 0 ? (
                <p className="quiet mt-1">All its files lie in one folder.</p>
              ) : (
                <div className="mt-1 max-h-80 overflow-y-auto" tabIndex={0} role="group" aria-labelledby="folders-title">
                  <Folders packId={pack.id} node={pack.folders} isTop />
                </div>
              )}
            </section>
            <section className="panel p-3" aria-labelledby="sets-title">
              <h2 id="sets-title">Sets</h2>
              <Sets sets={pack.sets} />
            </section>
          </div>
        </div>
        <aside className="flex flex-col gap-5">
          <section aria-labelledby="sure-title">
            <h2 id="sure-title">How sure we are</h2>
            <progress className="progress progress-primary mt-2 w-full" value={sure} max={100} aria-labelledby="sure-title" />
            <p className="quiet">
              {pack.counts.doubts === 0 ? 'nothing in it is in doubt' : `${pack.counts.doubts} of ${pack.counts.facts} facts are in doubt`}
            </p>
          </section>
          <section aria-labelledby="documents-title">
            <h2 id="documents-title">Came with it</h2>
            <Documents documents={pack.documents} coverId={pack.coverId} onCover={(coverId) => void saveOrTell({ coverId })} />
          </section>
          <section aria-labelledby="uses-title">
            <h2 id="uses-title">Used in</h2>
            {pack.uses.length === 0 ? (
              <p className="quiet mt-1">no project yet</p>
            ) : (
              <ul className="mt-1">
                {pack.uses.map(({ id, name, loops }) => (
                  <li key={id}>
                    <RoomLink to={`/projects/${id}`} className="link">
                      {name}
                    </RoomLink>{' '}
                    <span className="quiet">
                      {loops} {loops === 1 ? 'loop' : 'loops'}
                    </span>
                  </li>
                ))}
              </ul>
            )}
          </section>
          <section aria-labelledby="history-title">
            <h2 id="history-title">History</h2>
            <ul className="mt-1 flex flex-col gap-1">
              {pack.history.map(({ id, person, words: what, at }) => (
                <li key={id}>
                  {person} {what}{' '}
                  <span className="quiet" suppressHydrationWarning>
                    {formatDistanceToNowStrict(new Date(at))} ago
                  </span>
                </li>
              ))}
              {pack.history.length === 0 && <li className="quiet">nothing but its coming in</li>}
            </ul>
          </section>
        </aside>
      </div>
      {isEditing && <EditDialog words={words} onSave={save} onClose={() => setEditing(false)} />}
    </div>
  );
}

function Instruments({ rows }: { rows: Route.ComponentProps['loaderData']['pack']['instruments'] }) {
  const most = Math.max(1, ...rows.map(({ count }) => count));
  return (
    <ul className="mt-2 grid gap-x-6 gap-y-1 sm:grid-cols-2 xl:grid-cols-3">
      {rows.map(({ instrument, family, count }) => (
        <li key={`${instrument} ${family}`} className="flex items-center gap-2">
          <span className="w-4 text-center font-semibold" style={{ color: `var(--family-${family ?? 'mix'})` }} aria-hidden="true">
            {family ? families[family as Family].letter : '?'}
          </span>
          <span className="w-36 shrink-0 truncate">
            {instrumentById(instrument)?.label ?? (family ? `${families[family as Family].label}, which?` : 'unknown')}
          </span>
          <span
            className="h-2 rounded-sm"
            style={{ width: `${(count / most) * 40}%`, background: `var(--family-${family ?? 'mix'})` }}
            aria-hidden="true"
          />
          <span>{count}</span>
        </li>
      ))}
    </ul>
  );
}
