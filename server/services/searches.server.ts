import { parseLoopQuery, queryToParameters } from '~core/search/query';
import { selectRows, sequelize } from '../db/connection';
import {
  changeSearchSql,
  forgetRecentSql,
  forgetSearchSql,
  keepSearchSql,
  recentSearchesSql,
  rememberSearchSql,
  searchesSql,
} from '../db/queries/searches';

/** A search under a name: its own person's, or one that another shares. */
export interface KeptSearch {
  readonly id: number;
  readonly name: string;
  readonly address: string;
  readonly isShared: boolean;
  readonly isPinned: boolean;
  readonly person: string;
  readonly isOwn: boolean;
}

const shownRecent = 10;

/** A query as addresses have it, so that equal searches are one. */
const settled = (address: string): string =>
  new URLSearchParams(queryToParameters(parseLoopQuery(new URLSearchParams(address.slice(0, 2000))))).toString().slice(0, 2000);

export const listSearches = (personId: number): Promise<KeptSearch[]> => selectRows<KeptSearch>(searchesSql, [personId]);

/** What a person looked for last, the latest first. */
export const recentSearches = async (personId: number): Promise<string[]> =>
  (await selectRows<{ address: string }>(recentSearchesSql, [personId, shownRecent])).map(({ address }) => address);

/** Keeps a search under a name, in the place of what was kept under it. */
export async function keepSearch(personId: number, name: string, address: string): Promise<number> {
  const [{ id }] = await selectRows<{ id: number }>(keepSearchSql, [personId, name, settled(address)]);
  return id;
}

/** Remembers what a person looked for; a search that leaves nothing out is none. */
export async function rememberSearch(personId: number, address: string): Promise<void> {
  const own = settled(address);
  if (own === '') return;
  await sequelize.query(rememberSearchSql, { bind: [personId, own] });
  await sequelize.query(forgetRecentSql, { bind: [personId] });
}

/** Renames, shares or pins one's own search. @returns what is wrong, in words; null when it is done */
export async function changeSearch(
  id: number,
  personId: number,
  {
    name = null,
    isShared = null,
    isPinned = null,
  }: { readonly name?: string | null; readonly isShared?: boolean | null; readonly isPinned?: boolean | null },
): Promise<string | null> {
  try {
    const rows = await selectRows(changeSearchSql, [id, personId, name, isShared, isPinned]);
    return rows.length > 0 ? null : 'A kept search is its own person’s to change.';
  } catch (error) {
    if ((error as Error).name === 'SequelizeUniqueConstraintError') return 'You have kept a search under that name already.';
    throw error;
  }
}

/** Forgets one's own search. @returns what it was; null for none */
export async function forgetSearch(id: number, personId: number): Promise<Pick<KeptSearch, 'name' | 'address'> | null> {
  const [was] = await selectRows<Pick<KeptSearch, 'name' | 'address'>>(forgetSearchSql, [id, personId]);
  return was ?? null;
}
