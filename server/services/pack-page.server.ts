import { changeInWords, type Change } from '~core/library/change';
import { fold } from '~core/names/fold';
import { folderTree, type FolderNode } from '~core/library/folder-tree';
import { emptyQuery } from '~core/search/query';
import { selectRows } from '../db/connection';
import {
  changesOfPackSql,
  foldersOfPackSql,
  historyOfPackSql,
  instrumentsOfPackSql,
  ofPackIdsSql,
  packPageSql,
  setsOfPackSql,
  usesOfPackSql,
} from '../db/queries/pack-page';
import { Pack, PackDocument } from '../db/models/library';
import { inTransaction } from '../db/transaction';
import { announceLibrary } from '../events/announce.server';
import { addJob } from '../jobs/queue.server';
import { chooseAgain } from './facts.server';
import { findNameGroups, type NameGroup } from './names.server';
import { recordActivity } from './people.server';
import type { FacetCounts } from '~contracts/facet-counts';
import { searchFor } from './search-context.server';
import { countFacets } from './search.server';

/** Lines of a pack's history at most. */
const mostHistory = 30;

/** What is said of a pack, and can be changed. */
export interface PackWords {
  readonly name: string;
  readonly vendor: string;
  readonly licence: string;
  readonly description: string;
  readonly coverId: number | null;
}

export interface PackHead extends PackWords {
  readonly id: number;
  readonly addedBy: string;
  readonly addedById: number;
  readonly addedAt: string;
  readonly archived: boolean;
  /** Loops that belong to another pack as well. */
  readonly linked: number;
  readonly overviews: readonly string[];
  readonly counts: {
    readonly loops: number;
    readonly oneShots: number;
    readonly phrases: number;
    readonly fullMixes: number;
    readonly notes: number;
    readonly seconds: number;
    /** Of so many facts that could be in doubt, so many are. */
    readonly doubts: number;
    readonly facts: number;
  };
}

export interface DocumentLine {
  readonly id: number;
  readonly path: string;
  readonly kind: 'text' | 'pdf' | 'picture';
  readonly bytes: number;
}

export interface PackPage extends PackHead {
  readonly folders: FolderNode;
  readonly instruments: readonly { readonly instrument: string | null; readonly family: string | null; readonly count: number }[];
  readonly sets: readonly { readonly id: number; readonly stem: string; readonly count: number }[];
  readonly facets: FacetCounts;
  readonly documents: readonly DocumentLine[];
  readonly names: readonly NameGroup[];
  readonly uses: readonly { readonly id: number; readonly name: string; readonly loops: number }[];
  readonly history: readonly { readonly id: string; readonly person: string; readonly words: string; readonly at: string }[];
}

/** Everything about one pack; null when there is none. */
export async function findPackPage(packId: number, personId: number): Promise<PackPage | null> {
  const [head] = await selectRows<PackHead & { addedAt: Date | string }>(packPageSql, [packId]);
  if (!head) return null;
  const [folders, instruments, sets, uses, acts, changes, documents, facets, names] = await Promise.all([
    selectRows<{ folder: string; count: number }>(foldersOfPackSql, [packId]),
    selectRows<PackPage['instruments'][number]>(instrumentsOfPackSql, [packId]),
    selectRows<PackPage['sets'][number]>(setsOfPackSql, [packId]),
    selectRows<PackPage['uses'][number]>(usesOfPackSql, [packId]),
    selectRows<{ id: string; person: string; verb: string; detail: Record<string, unknown>; at: Date }>(historyOfPackSql, [packId]),
    selectRows<{ id: string; person: string; change: Change; state: string; loops: number; at: Date }>(changesOfPackSql, [packId]),
    PackDocument.findAll({ where: { packId }, order: [['path', 'asc']] }),
    searchFor({ ...emptyQuery, chosen: { pack: [String(packId)] } }, personId).then(countFacets),
    findNameGroups(packId),
  ]);
  return {
    ...head,
    addedAt: new Date(head.addedAt).toISOString(),
    folders: folderTree(folders),
    instruments,
    sets,
    uses,
    facets,
    names,
    documents: documents.map(({ id, path, kind, bytes }) => ({ id, path, kind, bytes: Number(bytes) })),
    history: [
      ...acts.map(({ id, person, verb, detail, at }) => ({ id, person, words: historyWords(verb, detail), at })),
      ...changes.map(({ id, person, change, state, loops, at }) => ({
        id,
        person,
        words: `changed ${loops} ${loops === 1 ? 'loop' : 'loops'}, ${changeInWords(change)}${state.startsWith('und') ? ', taken back' : ''}`,
        at,
      })),
    ]
      .sort((a, b) => b.at.getTime() - a.at.getTime())
      .slice(0, mostHistory)
      .map(({ at, ...line }) => ({ ...line, at: at.toISOString() })),
  };
}

function historyWords(verb: string, detail: Record<string, unknown>): string {
  const loops = typeof detail.loops === 'number' ? `, ${detail.loops} loops` : '',
    fields = Array.isArray(detail.fields) ? ` ${detail.fields.join(', ')}` : '';
  return `${verb}${fields || ' it'}${loops}`;
}

export async function findDocument(
  documentId: number,
): Promise<{ readonly fileSha: string; readonly mediaType: string; readonly kind: string; readonly path: string } | null> {
  const found = await PackDocument.findByPk(documentId);
  return found && { fileSha: found.fileSha256, mediaType: found.mediaType, kind: found.kind, path: found.path };
}

/** Says something else of a pack; what is left out stays. @returns what was said before of what changed, or what is wrong in words */
export async function changePack(packId: number, said: Partial<PackWords>, personId: number): Promise<Partial<PackWords> | string> {
  const before = await inTransaction(async (transaction) => {
    const pack = await Pack.findByPk(packId, { transaction, lock: transaction.LOCK.NO_KEY_UPDATE });
    if (!pack) return 'There is no such pack.';
    if (said.coverId && (await PackDocument.count({ where: { id: said.coverId, packId, kind: 'picture' }, transaction })) === 0)
      return 'That picture is not one of this pack’s.';
    const changed = (Object.keys(said) as (keyof PackWords)[]).filter((field) => said[field] !== undefined && said[field] !== pack[field]),
      was: Partial<PackWords> = Object.fromEntries(changed.map((field) => [field, pack[field]]));
    await pack.update(Object.fromEntries(changed.map((field) => [field, said[field]])), { transaction });
    // Loops are found by the name of their pack and its vendor.
    if ((['name', 'vendor'] as const).some((field) => was[field] !== undefined && fold(was[field]) !== fold(pack[field])))
      await addJob('tell-pack-anew', { packId }, `tell-pack-anew-${packId}`, transaction);
    return { was, name: pack.name };
  });
  if (typeof before === 'string') return before;
  const { was, name } = before,
    fields = Object.keys(was).map((field) => (field === 'coverId' ? 'cover' : field));
  if (fields.length === 0) return was;
  await recordActivity(personId, 'changed', 'pack', packId, { name, fields, before: was });
  await announceLibrary();
  return was;
}

const atOnce = 100;

/** The job after a pack was renamed: its loops are found by the new name. */
export async function tellPackAnew(packId: number): Promise<void> {
  const ids = (await selectRows<{ id: number }>(ofPackIdsSql, [packId])).map(({ id }) => id);
  for (let from = 0; from < ids.length; from += atOnce)
    await inTransaction(async (transaction) => {
      for (const id of ids.slice(from, from + atOnce)) await chooseAgain(id, transaction);
    });
  await announceLibrary();
}
