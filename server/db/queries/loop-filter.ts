import { searchTerms, type LoopQuery } from '~core/search/query';

export type Facet = 'family' | 'instrument' | 'kind' | 'key' | 'bars' | 'pack' | 'tempo';

/** A list of conditions with bound values. Built by code, so that no text of a person ever becomes SQL. */
export class Conditions {
  readonly parts: string[] = [];
  readonly bind: unknown[] = [];
  add(sql: (placeholder: string) => string, value: unknown): void {
    this.bind.push(value);
    this.parts.push(sql(`$${this.bind.length}`));
  }
  where(): string {
    return this.parts.length ? this.parts.map((part) => `(${part})`).join(' and ') : 'true';
  }
}

export const keyCodeSql =
  "case when l.pitched is false then 'un' when l.key_tonic is null then case when l.pitched then 'no' end else l.key_tonic || case l.key_mode when 'minor' then 'm' else 'M' end end";

/** The conditions of a query on `loops l`, without those of the facet `except` (its own counts ignore its own choice). */
export function loopConditions(query: LoopQuery, personId: number, except: Facet | null = null): Conditions {
  const conditions = new Conditions();
  conditions.parts.push('l.archived_at is null');
  const terms = searchTerms(query.words);
  // Words that hold no letter match nothing, and not everything.
  if (query.words && terms.length === 0) conditions.parts.push('false');
  if (terms.length) conditions.add((p) => `l.search_vector @@ ${p}::tsquery`, terms.map((term) => `'${term}':*`).join(' & '));
  if (query.families.length && except !== 'family') conditions.add((p) => `l.family = any(${p}::text[])`, query.families);
  if (query.instruments.length && except !== 'instrument') conditions.add((p) => `l.instrument = any(${p}::text[])`, query.instruments);
  if (query.kinds.length && except !== 'kind') conditions.add((p) => `l.kind = any(${p}::text[])`, query.kinds);
  if (query.keys.length && except !== 'key') conditions.add((p) => `${keyCodeSql} = any(${p}::text[])`, query.keys);
  if (query.bars.length && except !== 'bars') conditions.add((p) => `l.bars = any(${p}::real[])`, query.bars);
  if (query.packs.length && except !== 'pack') conditions.add((p) => `l.pack_id = any(${p}::int[])`, query.packs);
  if (query.tempo && except !== 'tempo') {
    conditions.add((p) => `l.tempo_bpm >= ${p}`, query.tempo.fromBpm);
    conditions.add((p) => `l.tempo_bpm < ${p}`, query.tempo.toBpm);
  }
  if (query.favourites)
    conditions.add((p) => `exists (select 1 from favourites f where f.loop_id = l.id and f.person_id = ${p})`, personId);
  return conditions;
}

/** Which facets have a choice of their own, and so need a count of their own. */
export function chosenFacets(query: LoopQuery): Facet[] {
  const chosen: [Facet, boolean][] = [
    ['family', query.families.length > 0],
    ['instrument', query.instruments.length > 0],
    ['kind', query.kinds.length > 0],
    ['key', query.keys.length > 0],
    ['bars', query.bars.length > 0],
    ['pack', query.packs.length > 0],
    ['tempo', query.tempo !== null],
  ];
  return chosen.filter(([, is]) => is).map(([facet]) => facet);
}
