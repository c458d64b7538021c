import { useState } from 'react';
import { Form, useSearchParams } from 'react-router';
import { roomParameter } from '~contracts/room-address';
import type { OutsideLine } from '~contracts/outside';
import { useRenewal } from '~/ui/use-renewal';
import { useLive } from '~/ui/live';
import { useProject } from '~/ui/project-store';
import { RoomLink } from '~/ui/room-link';
import { exchangeSources } from '~server/exchange/sources.server';
import { countParam } from '~server/http/input.server';
import { requirePerson } from '~server/http/session.server';
import { keyOf } from '~server/services/exchange/keys.server';
import { listTakes, searchExchange } from '~server/services/exchange/search.server';
import type { Route } from './+types/route';
import { KeyPanel } from './key-panel';
import { OutsideRow } from './outside-row';
import { Takes } from './takes';
import { takeFound, takeLoops, takePack } from './take';

export const meta: Route.MetaFunction = () => [{ title: 'Exchange · Garnetfinch' }];

export async function loader({ request }: Route.LoaderArgs) {
  const person = await requirePerson(request),
    { searchParams } = new URL(request.url),
    source = exchangeSources.find(({ id }) => id === searchParams.get('source')) ?? exchangeSources[0];
  if (!source) return null;
  const words = (searchParams.get('q') ?? '').slice(0, 200),
    category = (searchParams.get('category') ?? '').slice(0, 60),
    [found, takes, key] = await Promise.all([
      searchExchange(source, { words, category, page: countParam(searchParams.get('page'), 0, 10_000) }, request.signal),
      listTakes(person.id),
      keyOf(person.id, source.id),
    ]);
  return { source: { id: source.id, name: source.name, keyUrl: source.keyUrl }, found, takes, hasKey: key !== null, words, category };
}

export default function Exchange({ loaderData }: Route.ComponentProps) {
  if (!loaderData)
    return <p className="p-6">No exchange is set up here. Whoever keeps this server can name one with GARNETFINCH_EXCHANGE_URL.</p>;
  return <Source {...loaderData} key={loaderData.source.id} />;
}

type Shown = NonNullable<Route.ComponentProps['loaderData']>;

function Source({ source, found, takes, hasKey, words, category }: Shown) {
  const [parameters] = useSearchParams(),
    [chosen, setChosen] = useState<ReadonlySet<string>>(new Set()),
    project = useProject((state) => state.project),
    renew = useRenewal();
  useLive('import', () => void renew());
  const toggle = (id: string) =>
      setChosen((before) => {
        const next = new Set(before);
        if (!next.delete(id)) next.add(id);
        return next;
      }),
    open = found.loops.filter(({ loopId }) => loopId === null),
    wanted = open.filter(({ id }) => chosen.has(id)),
    pageLink = (page: number) =>
      `?${new URLSearchParams({ ...(words && { q: words }), ...(category && { category }), page: String(page) })}`;
  const take = async (loops: readonly OutsideLine[]) => {
    if (await takeLoops(source.id, loops)) setChosen(new Set());
    void renew();
  };
  return (
    <div className="mx-auto grid max-w-7xl gap-6 p-6 lg:grid-cols-[1fr_16rem]">
      <section aria-labelledby="exchange-title" className="min-w-0">
        <h1 id="exchange-title">Exchange: {source.name}</h1>
        <Form className="mt-3 flex flex-wrap items-end gap-2" role="search" key={`${words} ${category}`}>
          <input type="hidden" name={roomParameter} value={parameters.get(roomParameter) ?? ''} />
          <label className="flex flex-1 flex-col gap-1">
            <span className="caps">Words</span>
            <input name="q" type="search" defaultValue={words} className="input w-full" placeholder="nylon, congas, walking …" data-query />
          </label>
          <label className="flex flex-col gap-1">
            <span className="caps">Category</span>
            <select name="category" defaultValue={category} className="select w-44">
              <option value="">all</option>
              {(found.categories.length ? found.categories : category ? [category] : []).map((each) => (
                <option key={each}>{each}</option>
              ))}
            </select>
          </label>
          <button className="btn btn-primary">Search</button>
        </Form>
        {found.trouble ? (
          <div className="panel mt-4 p-4" role="alert">
            <p className="font-semibold">{found.trouble}</p>
            <button className="btn btn-sm mt-2" onClick={() => void renew()}>
              Try again
            </button>
          </div>
        ) : (
          <>
            <div className="mt-4 flex flex-wrap items-center gap-3">
              <p role="status">
                {found.total === 0 ? 'Nothing found there.' : `${found.total} loops`}
                {found.pages > 1 && (
                  <span className="quiet">
                    {' '}
                    · page {found.page + 1} of {found.pages}
                  </span>
                )}
              </p>
              {found.pages > 1 && (
                <button
                  className="btn btn-sm ml-auto"
                  onClick={() => void takeFound(source.id, { words, category }, found.total).then(() => renew())}
                >
                  Take all {found.total} found
                </button>
              )}
              {open.length > 0 && (
                <button
                  className={`btn btn-sm ${found.pages > 1 ? '' : 'ml-auto'}`}
                  onClick={() => setChosen(new Set(wanted.length === open.length ? [] : open.map(({ id }) => id)))}
                >
                  {wanted.length === open.length ? 'Choose none' : `Choose all ${open.length} on this page`}
                </button>
              )}
              <button className="btn btn-sm btn-primary" disabled={wanted.length === 0} onClick={() => void take(wanted)}>
                Take {wanted.length || ''} chosen
              </button>
            </div>
            {found.total === 0 && <p className="quiet mt-2">Fewer words find more; the category may also be too narrow.</p>}
            <ul className="mt-2 divide-y divide-base-300 border-y border-base-300">
              {found.loops.map((loop) => (
                <OutsideRow
                  key={loop.id}
                  loop={loop}
                  project={project}
                  chosen={chosen.has(loop.id)}
                  onChoose={() => toggle(loop.id)}
                  onTake={() => void take([loop])}
                  onTakePack={() => void takePack(source.id, loop.packId).then(() => renew())}
                />
              ))}
            </ul>
            {found.pages > 1 && (
              <nav aria-label="Pages of what was found" className="mt-3 flex gap-2">
                {found.page > 0 && (
                  <RoomLink to={pageLink(found.page - 1)} className="btn btn-sm">
                    Before
                  </RoomLink>
                )}
                {found.page + 1 < found.pages && (
                  <RoomLink to={pageLink(found.page + 1)} className="btn btn-sm">
                    Further
                  </RoomLink>
                )}
              </nav>
            )}
          </>
        )}
      </section>
      <div className="flex flex-col gap-5 self-start">
        <KeyPanel source={source} hasKey={hasKey} />
        <Takes takes={takes} />
      </div>
    </div>
  );
}
