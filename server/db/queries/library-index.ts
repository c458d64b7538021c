import { doubtAttributes } from '~core/analysis/attributes/registry';
import { sureFrom } from '~core/analysis/facts';
import { profileVersion } from '~core/search/fit/profile';
import { columnFacets } from '~core/search/index/library-index';
import { licenceSql } from './licence';
import { facetSql } from './loop-filter';

/** What the index holds of a loop; `detail` only of those whose profile is still to be made. */
const columns = `l.id, l.pack_id as "packId", l.set_id as "setId", l.kind, l.media, l.title, p.name as "packName", p.vendor, ${licenceSql} as licence, s.stem as "setStem",
  l.tempo_bpm as "tempoBpm", l.key_tonic as "keyTonic", l.key_mode as "keyMode", l.pitched, l.instrument, l.family, l.bars, l.beats, l.meter, l.length_seconds as "lengthSeconds",
  l.loudness_lufs as "loudnessLufs", extract(epoch from l.added_at)::float8 * 1000 as "addedAtMs", l.added_by as "addedBy", l.vendor_path as "vendorPath", l.search_text as "searchText",
  (${doubtAttributes.map((attribute) => `coalesce(l.${attribute}_confidence < ${sureFrom}, false)`).join(' or ')}) as "isDoubtful", l.likeness, l.profile,
  case when l.profile is null or get_byte(l.profile, 0) <> ${profileVersion} then l.detail end as detail,
  ${columnFacets.map((facet) => `${facet.match === 'among' ? facetSql(facet) : `(${facetSql(facet)})::text`} as "f_${facet.name}"`).join(', ')}`;

const joins = 'join packs p on p.id = l.pack_id left join sets s on s.id = l.set_id';

/** All loops of the library by id, page by page: from behind an id, so many. */
export const indexedPageSql = `select ${columns} from loops l ${joins} where l.archived_at is null and l.id > $1 order by l.id limit $2`;

/** Those of these that are in the library still. */
export const indexedByIdSql = `select ${columns} from loops l ${joins} where l.archived_at is null and l.id = any($1::int[])`;

/** Where the feed of changes stands. */
export const feedEndSql = /* sql */ `select coalesce(max(seq), 0)::text as seq from loop_feed`;

/** What was fed since, and what was fed late: numbers are given out before what they number can be seen. */
export const fedSinceSql = /* sql */ `select seq::text, loop_id as "loopId" from loop_feed where seq > $1 or seq = any($2::bigint[]) order by seq limit $3`;

/** What every index has seen long ago. */
export const forgetFedSql = /* sql */ `delete from loop_feed where at < now() - interval '2 hours'`;

export const keepProfileSql = /* sql */ `
  update loops set profile = w.profile from (
    select l.id, w.profile from unnest($1::int[], $2::bytea[]) w(id, profile) join loops l on l.id = w.id order by l.id for no key update of l
  ) w where loops.id = w.id`;
