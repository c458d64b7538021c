import { useMemo } from 'react';
import { useSearchParams, type ShouldRevalidateFunctionArgs } from 'react-router';
import { roomParameter } from '~contracts/room-address';
import { parseLoopQuery, queryToParameters, type LoopQuery } from '~core/search/query';
import { roomProjectId } from '~server/http/room.server';
import { requirePerson } from '~server/http/session.server';
import { listCollections } from '~server/services/collections.server';
import { packNames } from '~server/services/packs.server';
import { roomProject } from '~server/services/room.server';
import { searchFor } from '~server/services/search-context.server';
import { countFacets, countLoops, findLoops } from '~server/services/search.server';
import type { Route } from './+types/route';
import { Charts } from '~/ui/charts/charts';
import { LoopList } from './loop-list';
import { QueryLine } from './query-line';

export const meta: Route.MetaFunction = () => [{ title: 'Library · Garnetfinch' }];

export async function loader({ request }: Route.LoaderArgs) {
  const person = await requirePerson(request),
    search = await searchFor(
      parseLoopQuery(new URL(request.url).searchParams),
      person.id,
      await roomProject(roomProjectId(request, person)),
    );
  const [total, facets, page, packs, collections] = await Promise.all([
    countLoops(search),
    countFacets(search),
    findLoops(search, 0),
    packNames(),
    listCollections(),
  ]);
  return { total, facets, page, packs, collections, meant: [...search.context.meant] };
}

/** A favourite or a tag changes one row, not the whole search. */
export function shouldRevalidate({ formAction, defaultShouldRevalidate }: ShouldRevalidateFunctionArgs) {
  return formAction?.startsWith('/api/v1/loops/') ? false : defaultShouldRevalidate;
}

export default function Library({ loaderData }: Route.ComponentProps) {
  const [parameters, setParameters] = useSearchParams();
  const query = useMemo(() => parseLoopQuery(parameters), [parameters]);
  const change = (changes: Partial<LoopQuery>, replace = false) =>
    setParameters([...queryToParameters({ ...query, ...changes }), ...[...parameters].filter(([name]) => name === roomParameter)], {
      replace,
      preventScrollReset: true,
    });
  return (
    <div className="flex h-full min-w-[900px] flex-col">
      <h1 className="sr-only">Library</h1>
      <QueryLine
        query={query}
        packs={loaderData.packs}
        collections={loaderData.collections}
        meant={loaderData.meant}
        total={loaderData.total}
        onChange={change}
      />
      <Charts query={query} facets={loaderData.facets} onChange={change} />
      <LoopList query={query} first={loaderData.page} total={loaderData.total} onChange={change} />
    </div>
  );
}
