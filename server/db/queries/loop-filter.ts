import type { Facet } from '~core/analysis/attributes/attribute';
import { askedOf } from '~core/search/called';
import { facets } from '~core/search/facets';
import { readLine } from '~core/search/line';
import { rangeFacet } from '~core/search/index/ranges';
import { chosenOf, rangeNames, type LoopQuery, type RangeName } from '~core/search/query';
import { pairSql, partSql, type LineContext } from './line-conditions';

/** Tempo is narrowed by a range, not by choices, and counted in bins. */
export const tempoFacet = 'tempo';

/** A list of conditions with bound values. Built by code, so that no text of a person ever becomes SQL. */
export class Conditions {
  readonly parts: string[] = [];
  readonly bind: unknown[] = [];
  add(sql: (placeholder: string) => string, value: unknown): void {
    this.bind.push(value);
    this.parts.push(sql(`$${this.bind.length}`));
  }
  /** Binds a value and gives its place. */
  readonly place = (value: unknown): string => {
    this.bind.push(value);
    return `$${this.bind.length}`;
  };
  where(): string {
    return this.parts.length ? this.parts.map((part) => `(${part})`).join(' and ') : 'true';
  }
}

export const keyCodeSql =
  "case when l.pitched is false then 'un' when l.key_tonic is null then case when l.pitched then 'no' end else l.key_tonic || case l.key_mode when 'minor' then 'm' else 'M' end end";

/** The conditions of a query on `loops l`, without those of the facet named `except` (its own counts ignore its own choice). */
export function loopConditions(query: LoopQuery, context: LineContext, except: string | null = null): Conditions {
  const conditions = new Conditions();
  conditions.parts.push('l.archived_at is null');
  const { parts } = readLine(query.words);
  // A line that holds nothing to go by matches nothing, and not everything.
  if (query.words && parts.length === 0) conditions.parts.push('false');
  for (const asked of askedOf(parts))
    conditions.parts.push(
      asked.kind === 'pair' ? pairSql(asked, context, conditions.place) : partSql(asked.part, context, conditions.place),
    );
  for (const facet of facets) {
    const values = chosenOf(query, facet.name);
    if (values.length > 0 && facet.name !== except) conditions.add(holdsSql(facet, context.personId), values);
  }
  if (query.tempo && except !== tempoFacet) {
    conditions.add((p) => `l.tempo_bpm >= ${p}`, query.tempo.fromBpm);
    conditions.add((p) => `l.tempo_bpm < ${p}`, query.tempo.toBpm);
  }
  for (const name of rangeNames) {
    const range = query.ranges[name];
    if (!range || except === rangeFacet[name]) continue;
    const measure = rangeSql(name, context.project);
    conditions.add((p) => `${measure} >= ${p}::float8`, range.from - 1e-9);
    conditions.add((p) => `${measure} <= ${p}::float8`, range.to + 1e-9);
  }
  if (query.favourites)
    conditions.add((p) => `exists (select 1 from favourites f where f.loop_id = l.id and f.person_id = ${p})`, context.personId);
  return conditions;
}

/** A measure that ranges are held against, as `measureOf` has it to within the steps of a profile. */
function rangeSql(name: RangeName, project: LineContext['project']): string {
  switch (name) {
    case 'brightness':
      return "(ln(greatest(50, (l.detail->>'brightnessHz')::float8) / 50) / ln(2))";
    case 'density':
      return "(l.detail->>'density')::float8";
    case 'stretch': {
      if (!project) return 'null::float8';
      const octaves = `(ln(${project.tempoBpm} / l.tempo_bpm) / ln(2))`;
      return `(${octaves} + case when ${octaves} > 0.5 then -1 when ${octaves} < -0.5 then 1 else 0 end)`;
    }
    case 'shift': {
      if (!project?.key) return 'null::float8';
      const wanted = (project.key.tonic + (project.key.mode === 'minor' ? 3 : 0)) % 12;
      return `case when l.pitched is not false then mod(${wanted} - (l.key_tonic + case l.key_mode when 'minor' then 3 else 0 end) + 29, 12) - 5 end`;
    }
  }
}

/** What of a loop a facet's choice is held against, in SQL on `loops l`; of one that holds several, all of them. */
export const facetSql = ({ match, column }: Facet): string => (match === 'key' ? keyCodeSql : `l.${column}`);

const holdsSql =
  (facet: Facet, personId: number) =>
  (placeholder: string): string => {
    const sql = facetSql(facet);
    switch (facet.match) {
      case 'among':
        return `${sql} && ${placeholder}::text[]`;
      case 'number':
        return `${sql} = any(${placeholder}::real[])`;
      case 'id':
        return `${sql} = any(${placeholder}::int[])`;
      // A loop may belong to further packs that brought the same file.
      case 'pack':
        return `${sql} = any(${placeholder}::int[]) or l.id = any(array(select loop_id from pack_links where pack_id = any(${placeholder}::int[])))`;
      case 'collection':
        // What others keep to themselves holds nothing for who asks.
        return `${sql} = any(array(with recursive inside as (select id from collections where id = any(${placeholder}::int[]) and (not is_private or person_id = ${personId}::int) union select c.id from collections c join inside i on c.parent_id = i.id where c.archived_at is null and (not c.is_private or c.person_id = ${personId}::int)) select loop_id from collection_loops where collection_id in (select id from inside)))`;
      case 'folder':
        return `exists (select 1 from unnest(${placeholder}::text[]) folder where starts_with(${sql}, folder))`;
      default:
        return `${sql} = any(${placeholder}::text[])`;
    }
  };

/** Which facets have a choice of their own and are counted, and so need a count of their own. */
export const chosenFacets = (query: LoopQuery): string[] => [
  ...facets.filter(({ name, isCounted }) => isCounted !== false && chosenOf(query, name).length > 0).map(({ name }) => name),
  ...(query.tempo ? [tempoFacet] : []),
];
