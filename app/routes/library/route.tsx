import { memo, useCallback, useEffect, useMemo, useRef } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { useNavigation, useSearchParams, type ShouldRevalidateFunctionArgs } from 'react-router';
import { parseLoopQuery, queryToParameters, type LoopQuery } from '~core/search/query';
import { lookUpOf } from '~server/http/look-up.server';
import { requirePerson } from '~server/http/session.server';
import { listCollections } from '~server/services/collections.server';
import { fitWeightsOf } from '~server/services/fit-marks.server';
import { lookUp } from '~server/services/look-up.server';
import { nearName } from '~server/services/near-names.server';
import { packNames } from '~server/services/packs.server';
import type { Route } from './+types/route';
import { Charts } from '~/ui/charts/charts';
import { GroupsView } from './groups-view';
import { ListBar } from './list-bar';
import { LoopList, type Jump } from './loop-list';
import { MapView } from './map-view';
import { NearBar } from './near-bar';
import { QueryLine } from './query-line';
import { FreshFit } from './fresh-fit';
import { besideQuery, viewOf, viewParameter, type View } from './view';
import { api } from '~/ui/api';

export const meta: Route.MetaFunction = () => [{ title: 'Library · Garnetfinch' }];

export async function loader({ request }: Route.LoaderArgs) {
  const person = await requirePerson(request),
    asked = await lookUpOf(request, person),
    view = viewOf(new URL(request.url).searchParams);
  const [found, packs, collections, weights, near] = await Promise.all([
    lookUp(asked, { offset: 0, facets: true, map: view === 'map', groups: view === 'pack' || view === 'set' ? view : null }),
    packNames(),
    listCollections(person.id),
    fitWeightsOf(person.id),
    nearName(asked.query.near, person.id, asked.project?.id ?? null),
  ]);
  return { found, packs, collections, weights, near };
}

/** A favourite or a tag changes one row, not the whole search. */
export function shouldRevalidate({ formAction, defaultShouldRevalidate }: ShouldRevalidateFunctionArgs) {
  return formAction?.startsWith('/api/v1/loops/') || formAction?.startsWith('/api/v1/searches') ? false : defaultShouldRevalidate;
}

/** So long a search stands before it is one that one may want to go back to. */
const settledMs = 2500,
  mostSteps = 50;

type Data = Route.ComponentProps['loaderData'];

/**
 * The router draws a route, and whoever asks it for anything, when it sets out and again when it arrives: only this asks it, so that what is typed is
 * drawn once, with what was found.
 */
export default function Library({ loaderData }: Route.ComponentProps) {
  const [parameters, setParameters] = useSearchParams();
  return <LibraryPage {...loaderData} parameters={parameters} setParameters={setParameters} />;
}

interface Address {
  readonly parameters: URLSearchParams;
  readonly setParameters: ReturnType<typeof useSearchParams>[1];
}

/** Acts when nothing is on its way, and whenever there is something else to do then. */
function OnIdle({ act }: { act: () => void }): null {
  const { state } = useNavigation();
  useEffect(() => {
    if (state === 'idle') act();
  }, [state, act]);
  return null;
}

const LibraryPage = memo(function LibraryPage({ found, packs, collections, weights, near, parameters, setParameters }: Data & Address) {
  const query = useMemo(() => parseLoopQuery(parameters), [parameters]),
    view = viewOf(parameters),
    steps = useRef<LoopQuery[]>([]),
    jump = useRef<Jump>(null);
  const go = (next: LoopQuery, nextView: View, replace = false) =>
    setParameters(
      [
        ...queryToParameters(next),
        ...besideQuery(parameters).filter(([name]) => name !== viewParameter),
        ...(nextView === 'list' ? [] : ([[viewParameter, nextView]] as [string, string][])),
      ],
      { replace, preventScrollReset: true },
    );
  // What was asked last, which the address says only once it is there: who types on meanwhile builds on that.
  const asked = useRef({ query, view });
  // What arrives while something newer is on its way is not what was asked last.
  const takeUp = useCallback(() => {
    asked.current = { query, view };
  }, [query, view]);
  const goTo = (next: typeof asked.current, replace = false) => {
    asked.current = next;
    go(next.query, next.view, replace);
  };
  const change = (changes: Partial<LoopQuery>, replace = false) => {
    steps.current = [...steps.current, asked.current.query].slice(-mostSteps);
    goTo({ ...asked.current, query: { ...asked.current.query, ...changes } }, replace);
  };
  // One key takes the last step back, whatever it was.
  useHotkeys('backspace', () => {
    const before = steps.current.pop();
    if (!before) return;
    goTo({ ...asked.current, query: before });
  });
  const settled = new URLSearchParams(queryToParameters(query)).toString();
  useEffect(() => {
    if (settled === '') return;
    const pause = setTimeout(
      () => void fetch(api.recentSearches, { method: 'post', body: new URLSearchParams({ address: settled }) }).catch(() => {}),
      settledMs,
    );
    return () => clearTimeout(pause);
  }, [settled]);
  return (
    <div className="flex h-full min-w-[900px] flex-col">
      <h1 className="sr-only">Library</h1>
      <OnIdle act={takeUp} />
      <FreshFit />
      <QueryLine query={query} packs={packs} collections={collections} meant={found.meant} total={found.total} onChange={change} />
      <Charts query={query} facets={found.facets ?? {}} colour={found.colour} onChange={change} />
      <ListBar
        query={query}
        view={view}
        found={found}
        weights={weights}
        onChange={change}
        onView={(next) => goTo({ ...asked.current, view: next })}
        onJump={(to) => void jump.current?.(to)}
      />
      <NearBar query={query} name={near} onChange={change} />
      {view === 'map' ? (
        <MapView query={query} map={found.map} onChange={change} />
      ) : view === 'list' ? (
        <LoopList query={query} first={found} total={found.total} onChange={change} jumpRef={jump} />
      ) : (
        <GroupsView key={view} by={view} query={query} groups={found.groups} onChange={change} />
      )}
    </div>
  );
});
