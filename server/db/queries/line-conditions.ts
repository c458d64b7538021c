import { doubtAttributes } from '~core/analysis/attributes/registry';
import { sureFrom } from '~core/analysis/facts';
import { licenceAllows } from '~core/library/licence';
import { instrumentCalled, instrumentsNamed, isCalled, withKin, type Asked } from '~core/search/called';
import { facetOf } from '~core/search/facets';
import type { FitContext } from '~core/search/fit/coarse';
import { wordsIn } from '~core/search/line';
import { licenceSql } from './licence';
import type { IsWord, KeyRelation, LinePart, NamedField, PartMeaning } from '~core/search/line';
import type { Key } from '~core/theory/key';

/** A project in the room, as searches know it. */
export interface SearchProject extends FitContext {
  readonly id: number;
}

/** What a line is read by beside itself. */
export interface LineContext {
  readonly personId: number;
  readonly project: SearchProject | null;
  /** Words that were likely meant, for those that nothing begins with. */
  readonly meant: ReadonlyMap<string, readonly string[]>;
  /** Licences of packs, where the line asks for what they allow. */
  readonly licences: readonly PackLicence[];
}
export interface PackLicence {
  readonly id: number;
  /** Empty for loops that came from outside. */
  readonly madeUnder: string;
  readonly licence: string;
}

/** What the loops of each pack stand under: all of them alike, but for those that were made of others. */
export const licencesSql = /* sql */ `
select p.id, '' as "madeUnder", p.licence from packs p union
select p.id, l.made_under, ${licenceSql} from loops l join packs p on p.id = l.pack_id where l.made_under is not null`;
const allowedSql = (allowing: readonly PackLicence[], bind: Bind): string =>
  `(l.pack_id, coalesce(l.made_under, '')) in (select * from unnest(${bind(allowing.map(({ id }) => id))}::int[], ${bind(allowing.map(({ madeUnder }) => madeUnder))}::text[]))`;

/** What a field is called: by how one of its words begins; an instrument by its other names too. */
function namedSql(field: NamedField, name: string, bind: Bind): string {
  const begins = (column: string) => `${column} ~* ${bind(`(^|[^[:alnum:]])${name.replace(/[^\p{L}\p{N}]+/gu, '[^[:alnum:]]+')}`)}`;
  switch (field) {
    case 'tag':
      return `exists (select 1 from loop_tags lt join tags t on t.id = lt.tag_id where lt.loop_id = l.id and lower(t.name::text) = lower(${bind(name)}))`;
    case 'pack':
    case 'vendor':
      return `l.pack_id in (select id from packs where ${begins(field === 'pack' ? 'name' : 'vendor')})`;
    case 'set':
      return `l.set_id in (select id from sets where ${begins('stem')})`;
    case 'meter':
      return `l.meter = ${bind(name.trim())}`;
    default:
      return idsSql(field, name, bind);
  }
}

function idsSql(field: 'genre' | 'character' | 'instrument' | 'family' | 'role', name: string, bind: Bind): string {
  const facet = facetOf(field),
    ids =
      field === 'instrument'
        ? instrumentsNamed(name)
        : (facet?.choices ?? []).filter(({ value, label }) => isCalled(value, name) || isCalled(label, name)).map(({ value }) => value);
  return facet?.match === 'among' ? `l.${facet.column} && ${bind(ids)}::text[]` : `l.${facet?.column ?? field} = any(${bind(ids)}::text[])`;
}

/** A value's place in a statement. */
type Bind = (value: unknown) => string;

/** The condition of two words that are an instrument's name together. */
export function pairSql({ parts, instrument }: Extract<Asked, { kind: 'pair' }>, context: LineContext, bind: Bind): string {
  const both = parts.map((part) => `(${partSql(part, context, bind)})`).join(' and ');
  return `(${both}) or l.instrument = any(${bind(withKin(instrument).map(({ id }) => id))}::text[])`;
}

/** The condition of a part of the line on `loops l`. */
export function partSql({ meaning, isNot }: LinePart, context: LineContext, bind: Bind): string {
  const sql = meaningSql(meaning, context, bind);
  // What is not known to be so is not so.
  return isNot ? `not coalesce((${sql}), false)` : sql;
}

function meaningSql(meaning: PartMeaning, { personId, project, meant, licences }: LineContext, bind: Bind): string {
  switch (meaning.kind) {
    case 'word':
      return wordSql(meaning.word, meant.get(meaning.word) ?? [], bind);
    case 'tempo':
      return `l.tempo_bpm >= ${bind(meaning.fromBpm)} and l.tempo_bpm <= ${bind(meaning.toBpm)}`;
    case 'within': {
      if (!project) return 'false';
      const tempo = bind(project.tempoBpm),
        stretch = ['1', '2', '0.5'].map((reading) => `abs(ln(l.tempo_bpm * ${reading} / ${tempo}::float8))`).join(', ');
      return `least(${stretch}) <= ${bind(Math.log(1 + meaning.percent / 100))}::float8`;
    }
    case 'key':
      return `l.key_tonic = ${bind(meaning.key.tonic)} and l.key_mode = ${bind(meaning.key.mode)}`;
    case 'key-relation':
      return project?.key ? `${unpitched} or ${relationSql(meaning.relation, project.key, bind)}` : unpitched;
    case 'shift':
      return project?.key ? `${unpitched} or (${shiftSql(project.key, bind)}) <= ${bind(meaning.semitones)}::int` : unpitched;
    case 'bars':
      return `l.bars between ${bind(meaning.from)}::real and ${bind(meaning.to)}::real`;
    case 'is':
      return isSql(meaning.what, personId, project, bind);
    case 'by':
      return `l.added_by in (select id from people where name ilike ${bind(`${meaning.name.replace(/[%_\\]/g, '\\$&')}%`)})`;
    case 'rated':
      return meaning.stars === 0
        ? `not exists (select 1 from ratings r where r.loop_id = l.id and r.person_id = ${bind(personId)} and r.stars is not null)`
        : `exists (select 1 from ratings r where r.loop_id = l.id and r.person_id = ${bind(personId)} and r.stars >= ${bind(meaning.stars)}::int)`;
    case 'licence':
      // What a text allows is for one reader to say: see `licencesSql`.
      return allowedSql(
        licences.filter(({ licence }) => licenceAllows(licence, meaning.use) === true),
        bind,
      );
    case 'named':
      return namedSql(meaning.field, meaning.name, bind);
    case 'added':
      return `l.added_at > now() - make_interval(days => ${bind(meaning.days)}::int)`;
  }
}

/** What keeps its pitch, or has none. */
const unpitched = "(l.pitched is false or l.family = 'drums')";

/**
 * A word begins one of a loop's, as it was typed or as it was likely meant; or it is another name of an instrument, whose own name every loop's words
 * hold. One query of the index of words, whichever.
 */
function wordSql(word: string, meant: readonly string[], bind: Bind): string {
  const named = instrumentCalled(word),
    same = named ? withKin(named) : [];
  return `l.search_vector @@ ${bind([...[word, ...meant].map((each) => `'${each}':*`), ...same.map(({ label }) => phraseOf(label))].join(' | '))}::tsquery`;
}

/** A name's words one behind the other. */
const phraseOf = (name: string): string =>
  `(${wordsIn(name)
    .map((word) => `'${word}'`)
    .join(' <-> ')})`;

/** Semitones by the shortest way from a loop's key to the project's, a relative one counting as the same. */
function shiftSql(key: Key, bind: Bind): string {
  const wanted = (key.tonic + (key.mode === 'minor' ? 3 : 0)) % 12,
    up = `mod(${bind(wanted)}::int - (l.key_tonic + case l.key_mode when 'minor' then 3 else 0 end) + 24, 12)`;
  return `least(${up}, 12 - ${up})`;
}

function relationSql(relation: KeyRelation, key: Key, bind: Bind): string {
  if (relation === 'same') return `(l.key_tonic = ${bind(key.tonic)} and l.key_mode = ${bind(key.mode)})`;
  if (relation === 'parallel') return `l.key_tonic = ${bind(key.tonic)}`;
  const shift = shiftSql(key, bind);
  // Five or seven semitones are a fifth, up or down.
  return relation === 'relative' ? `${shift} = 0` : `${shift} in (0, 5)`;
}

const kindOf: Partial<Readonly<Record<IsWord, string>>> = { loop: 'loop', 'one-shot': 'one-shot', phrase: 'phrase', mix: 'full-mix' };

function isSql(what: IsWord, personId: number, project: SearchProject | null, bind: Bind): string {
  const kind = kindOf[what],
    usedHere = () => (project ? `exists (select 1 from clips c where c.loop_id = l.id and c.project_id = ${bind(project.id)})` : 'false');
  if (kind) return `l.kind = ${bind(kind)}`;
  switch (what) {
    case 'notes':
      return "l.media = 'midi'";
    case 'audio':
      return "l.media = 'audio'";
    case 'unpitched':
      return 'l.pitched is false';
    case 'favourite':
      return `exists (select 1 from favourites f where f.loop_id = l.id and f.person_id = ${bind(personId)})`;
    case 'doubtful':
      return doubtAttributes.map((attribute) => `l.${attribute}_confidence < ${sureFrom}`).join(' or ');
    case 'used':
      return usedHere();
    case 'unused':
      return `not ${usedHere()}`;
    default:
      return 'true';
  }
}

/** Whether some word of the library begins so. */
export const beginsSql = /* sql */ `select exists (select 1 from search_words where word >= $1 and word < $2) as begins`;

/** Words to be looked at for one: that begin alike, or share enough of their triples of letters (Angell et al. 1983, by pg_trgm). */
export const nearWordsSql = /* sql */ `
  select word from search_words where length(word) >= length($1) - 2 and (word % $1 or left(word, 1) = left($1, 1)) order by similarity(word, $1) desc limit 200`;
