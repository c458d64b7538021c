import type { OutsideLoop } from '~contracts/outside';
import type { OutsideLine, Origin, TakeLine } from '~contracts/outside';
import { selectRows } from '../../db/connection';
import { loopsOfOutsideSql, originsSql, takesSql } from '../../db/queries/exchange';
import { OutsideError, type ExchangeSource, type OutsideQuery } from '../../exchange/source';
import { exchangeSource } from '../../exchange/sources.server';

export interface ExchangeResult {
  readonly total: number;
  readonly page: number;
  readonly pages: number;
  readonly categories: readonly string[];
  readonly loops: readonly OutsideLine[];
  /** Why there is nothing, in a sentence; null when all went well. */
  readonly trouble: string | null;
}

/** What is found outside, with what of it is here already. Trouble out there is told, and is none of ours. */
export async function searchExchange(source: ExchangeSource, query: OutsideQuery, signal?: AbortSignal): Promise<ExchangeResult> {
  try {
    const { loops, ...page } = await source.search(query, signal);
    return { ...page, loops: await markTaken(source.id, loops), trouble: null };
  } catch (error) {
    if (!(error instanceof OutsideError)) throw error;
    return { total: 0, page: 0, pages: 0, categories: [], loops: [], trouble: error.message };
  }
}

/** Loops outside, with the ids of those that are here already. */
export async function markTaken(source: string, loops: readonly OutsideLoop[]): Promise<OutsideLine[]> {
  const taken = await selectRows<{ outsideId: string; loopId: number }>(loopsOfOutsideSql, [source, loops.map(({ id }) => id)]),
    byId = new Map(taken.map(({ outsideId, loopId }) => [outsideId, loopId]));
  return loops.map((loop) => ({ ...loop, source, loopId: byId.get(loop.id) ?? null }));
}

/** What a person has taken lately, and how far it is. */
export const listTakes = (personId: number): Promise<TakeLine[]> => selectRows<TakeLine>(takesSql, [personId]);

/** Where loops come from that were taken outside, by their ids here. */
export async function originsOf(loopIds: readonly number[]): Promise<ReadonlyMap<number, Origin>> {
  const rows = await selectRows<{ loopId: number; source: string; told: OutsideLoop }>(originsSql, [loopIds]);
  return new Map(
    rows.map(({ loopId, source, told: { author, licence, pageUrl } }) => [
      loopId,
      { sourceName: exchangeSource(source)?.name ?? source, author, licence, pageUrl },
    ]),
  );
}
