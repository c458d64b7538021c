import type { FacetCounts } from '~contracts/facet-counts';
import type { FitMark } from '~contracts/fit-mark';
import type { HeardRange } from '~contracts/heard-range';
import type { LoopCard } from '~contracts/loop-card';
import { usualWeights, type FitWeights } from '~core/search/fit/weights';
import type { ColourCell } from '~core/search/index/colour-cells';
import type { FoundMap } from '~core/search/index/counts';
import type { Answer, Group, GroupBy, Question } from '~core/search/index/finder';
import type { GapFound } from '~core/search/fit/gaps';
import { pageRows } from '~contracts/page-rows';
import { outsideName, outsideOf } from '~core/search/outside';
import { parseLoopQuery, type LoopQuery } from '~core/search/query';
import { selectRows } from '../db/connection';
import { collectionTreeSql } from '../db/queries/collections';
import { cardsByIdSql } from '../db/queries/loops';
import { heardAtSql, outsideIdsSql } from '../db/queries/outside';
import type { SearchProject } from '../db/queries/line-conditions';
import { askFinder, finderState } from '../search/finder.server';
import { askedSound } from './asked-sounds.server';
import { fitMark, fitWeightsOf, type RawFitCard } from './fit-marks.server';
import { toLoopCard } from './loop-rows';
import { roomScene, sceneOfLoops, type RoomScene } from './scene.server';
import { searchFor } from './search-context.server';
import { countFacets, countLoops, findLoops } from './search.server';

/** Who looks for what, in which room, over which part of the project. */
export interface LookUp {
  readonly query: LoopQuery;
  readonly personId: number;
  readonly project: SearchProject | null;
  readonly range: HeardRange | null;
}

/** A row with how well it belongs, where there is something to belong to. */
export type FoundCard = LoopCard & { readonly fit: FitMark | null };

export interface Wanted {
  readonly offset: number;
  readonly limit?: number;
  readonly facets?: boolean;
  readonly map?: boolean;
  readonly groups?: GroupBy | null;
  readonly jumpTo?: string;
}

export interface Found {
  readonly rows: readonly FoundCard[];
  readonly offset: number;
  readonly total: number;
  readonly facets: FacetCounts | null;
  readonly colour: readonly ColourCell[] | null;
  readonly map: FoundMap | null;
  readonly groups: readonly Group[] | null;
  readonly meant: readonly (readonly [string, readonly string[]])[];
  readonly jumpedTo: number | null;
  readonly gaps: readonly GapFound[];
  /** What the index can't do yet, because it is still being read: how many loops are in; null when it is there. */
  readonly readingLoops: number | null;
}

/** What a search finds, in one go: by the index, or by the database as long as that is not there. */
export async function lookUp(asked: LookUp, wanted: Wanted): Promise<Found> {
  const [heard, weights] = await Promise.all([roomOf(asked), asked.project ? fitWeightsOf(asked.personId) : usualWeights]),
    answer = await askFinder(await questionOf(asked, wanted, heard, weights));
  if (!answer) return byDatabase(asked, wanted, heard, weights);
  return {
    ...answer,
    rows: await cardsInOrder([...answer.ids], asked.personId, heard, weights),
    offset: answer.jumpedTo ?? wanted.offset,
    gaps: heard?.gaps ?? [],
    readingLoops: null,
  };
}

/** Ids of a part of what a search finds, in the list's order; null where the index is not there. */
export async function lookUpIds(asked: LookUp, offset: number, limit: number): Promise<number[] | null> {
  const answer: Answer | null = await askFinder(
    await questionOf(asked, { offset, limit }, await roomOf(asked), asked.project ? await fitWeightsOf(asked.personId) : usualWeights),
  );
  return answer && [...answer.ids];
}

/** What candidates are held against: what sounds in the room, or what they are to complete. */
async function roomOf({ query, project, range }: LookUp): Promise<RoomScene | null> {
  if (query.near?.kind === 'with') return sceneOfLoops(query.near.ids, project);
  return project && roomScene(project.id, range, query.near?.kind === 'tracks' ? query.near.trackIds : null);
}

async function questionOf(
  { query, personId, project }: LookUp,
  wanted: Wanted,
  heard: RoomScene | null,
  weights: FitWeights,
): Promise<Question> {
  const outside = await Promise.all(
      outsideOf(query).map(async (each) => {
        const { sql, bind } = outsideIdsSql(each, { personId, projectId: project?.id ?? null }),
          ids = (await selectRows<{ id: number }>(sql, bind)).map(({ id }) => id);
        return [outsideName(each), each.kind === 'collection' ? [...ids, ...(await ruledIds(each.id, personId))] : ids] as const;
      }),
    ),
    heardAt = query.sort === 'heard' ? await selectRows<{ id: number; atMs: number }>(heardAtSql, [personId]) : [];
  return {
    query,
    offset: wanted.offset,
    limit: wanted.limit ?? pageRows,
    wants: { facets: wanted.facets, map: wanted.map, groups: wanted.groups ?? undefined },
    jumpTo: wanted.jumpTo,
    context: {
      project: project && { tempoBpm: project.tempoBpm, key: project.key },
      outside: Object.fromEntries(outside),
      nowMs: Date.now(),
      scene: heard?.scene ?? null,
      sceneKey: heard ? `${heard.key} ${Object.values(weights).join(' ')}` : '',
      weights,
      asked: query.near?.kind === 'sound' ? await askedSound(query.near.id, personId) : null,
      heard: { ids: heardAt.map(({ id }) => id), atMs: heardAt.map(({ atMs }) => atMs) },
    },
  };
}

const mostRuled = 100_000;

/** What the rules of a collection, and of those that lie in it, find now. A rule by another collection is not followed: it could go round. */
async function ruledIds(collectionId: number, personId: number): Promise<number[]> {
  const tree = await selectRows<{ rule: string | null }>(collectionTreeSql, [collectionId, personId]),
    found: number[] = [];
  for (const { rule } of tree) {
    if (rule === null) continue;
    const { collection: _, ...chosen } = parseLoopQuery(new URLSearchParams(rule)).chosen,
      query = { ...parseLoopQuery(new URLSearchParams(rule)), chosen };
    found.push(...((await lookUpIds({ query, personId, project: null, range: null }, 0, mostRuled)) ?? []));
  }
  return found;
}

async function cardsInOrder(ids: readonly number[], personId: number, heard: RoomScene | null, weights: FitWeights): Promise<FoundCard[]> {
  if (ids.length === 0) return [];
  const raws = new Map((await selectRows<RawFitCard>(cardsByIdSql, [ids, personId])).map((row) => [row.id, row]));
  return ids.flatMap((id) => {
    const raw = raws.get(id);
    if (!raw) return [];
    const card = toLoopCard(raw);
    return [{ ...card, fit: heard && fitMark(card, raw, heard.scene, weights) }];
  });
}

/** The same by the database alone, which orders by stretch and shift where fit is asked for. */
async function byDatabase(
  { query, personId, project }: LookUp,
  wanted: Wanted,
  heard: RoomScene | null,
  weights: FitWeights,
): Promise<Found> {
  const search = await searchFor(query, personId, project),
    [page, total, facets] = await Promise.all([
      findLoops(search, wanted.offset, wanted.limit ?? pageRows),
      countLoops(search),
      wanted.facets ? countFacets(search) : null,
    ]),
    state = finderState();
  return {
    rows: await cardsInOrder(
      page.rows.map(({ id }) => id),
      personId,
      heard,
      weights,
    ),
    offset: wanted.offset,
    total,
    facets,
    colour: null,
    map: null,
    groups: null,
    meant: [...search.context.meant],
    jumpedTo: null,
    gaps: heard?.gaps ?? [],
    readingLoops: state.kind === 'reading' ? state.loops : 0,
  };
}
