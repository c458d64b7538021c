import { pageRows } from '~contracts/page-rows';
import { selectRows } from '../db/connection';
import { facets } from '~core/search/facets';
import { chosenFacets, loopConditions, tempoFacet } from '../db/queries/loop-filter';
import { countSql, facetsSql, pageSql, rowsByIdSql } from '../db/queries/loops';
import type { FacetCounts } from '~contracts/facet-counts';
import type { Search } from './search-context.server';
import type { LoopCard } from '~contracts/loop-card';
import type { WholeLoop } from '~contracts/whole-loop';
import { toLoopCard, toLoopRow, type RawLoopCard, type RawLoopRow } from './loop-rows';

export interface LoopPage {
  readonly rows: readonly LoopCard[];
  readonly offset: number;
}

/** One page of the list. */
export async function findLoops({ query, context }: Search, offset: number, limit = pageRows): Promise<LoopPage> {
  const { sql, bind } = pageSql(query, loopConditions(query, context), context.personId, context.project, offset, limit);
  return { rows: (await selectRows<RawLoopCard>(sql, bind)).map(toLoopCard), offset };
}

export async function countLoops({ query, context }: Search): Promise<number> {
  const conditions = loopConditions(query, context);
  const [row] = await selectRows<{ total: number }>(countSql(conditions.where()), conditions.bind);
  return row.total;
}

const allFacets: readonly string[] = [...facets.filter(({ isCounted }) => isCounted !== false).map(({ name }) => name), tempoFacet];

/** Counts for the charts. A facet with a choice of its own is counted without it, so that one sees what else there is. */
export async function countFacets({ query, context }: Search): Promise<FacetCounts> {
  const chosen = chosenFacets(query),
    plain = allFacets.filter((facet) => !chosen.includes(facet)),
    count = async (names: readonly string[], except: string | null) => {
      const conditions = loopConditions(query, context, except);
      return Promise.all(
        facetsSql(names, conditions.where()).map((sql) =>
          selectRows<{ facet: string; value: string | null; count: number }>(sql, conditions.bind),
        ),
      );
    };
  const rows = (await Promise.all([count(plain, null), ...chosen.map((facet) => count([facet], facet))])).flat(2),
    counts = Object.fromEntries(allFacets.map((facet) => [facet, [] as { value: string; count: number }[]]));
  for (const { facet, value, count } of rows) if (value !== null) counts[facet].push({ value, count });
  return counts;
}

/** Rows by id, in no particular order; archived ones too, since projects may still use them. */
export async function findRowsById(ids: readonly number[], personId: number): Promise<WholeLoop[]> {
  return ids.length ? (await selectRows<RawLoopRow>(rowsByIdSql, [ids, personId])).map(toLoopRow) : [];
}
