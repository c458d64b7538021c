import { doubtAttributes } from '~core/analysis/attributes/registry';
import { sureFrom } from '~core/analysis/facts';

/** Loops of a pack, those that it shares with another included. */
const ofPack = `(l.pack_id = $1 or l.id = any(array(select loop_id from pack_links where pack_id = $1))) and l.archived_at is null`;

export const packPageSql = /* sql */ `
  select p.id, p.name, p.vendor, p.licence, p.description, p.cover_id as "coverId", a.name::text as "addedBy", p.added_by as "addedById", p.added_at as "addedAt", p.archived_at is not null as archived,
    (select count(*)::int from pack_links where pack_id = p.id) as linked,
    (select coalesce(json_agg(encode(o.overview, 'base64')), '[]') from (select overview from loops l where ${ofPack} and media = 'audio' order by id limit 7) o) as overviews,
    (select json_build_object('loops', count(*) filter (where kind = 'loop'), 'oneShots', count(*) filter (where kind = 'one-shot'), 'phrases', count(*) filter (where kind = 'phrase'),
      'fullMixes', count(*) filter (where kind = 'full-mix'), 'notes', count(*) filter (where media = 'midi'), 'seconds', coalesce(sum(length_seconds), 0),
      'doubts', coalesce(sum(${doubtAttributes.map((attribute) => `case when ${attribute}_confidence < ${sureFrom} then 1 else 0 end`).join(' + ')}), 0),
      'facts', coalesce(sum(${doubtAttributes.map((attribute) => `case when ${attribute}_confidence is not null then 1 else 0 end`).join(' + ')}), 0)) from loops l where ${ofPack}) as counts
  from packs p join people a on a.id = p.added_by where p.id = $1`;

export const foldersOfPackSql = /* sql */ `
  select coalesce(substring(vendor_path from '^.*/'), '') as folder, count(*)::int as count from loops l where pack_id = $1 and archived_at is null group by 1 order by 1`;

export const instrumentsOfPackSql = /* sql */ `
  select instrument, family, count(*)::int as count from loops l where ${ofPack} group by 1, 2 order by count desc, instrument limit 40`;

export const setsOfPackSql = /* sql */ `
  select s.id, s.stem, count(*)::int as count from sets s join loops l on l.set_id = s.id and l.archived_at is null where s.pack_id = $1 group by s.id order by s.stem limit 200`;

export const usesOfPackSql = /* sql */ `
  select p.id, p.name, count(distinct c.loop_id)::int as loops from clips c join loops l on l.id = c.loop_id join projects p on p.id = c.project_id
  where l.pack_id = $1 and p.archived_at is null group by p.id order by p.name`;

export const historyOfPackSql = /* sql */ `
  select a.id::text, p.name::text as person, a.verb, a.detail, a.at from activity a join people p on p.id = a.person_id where a.subject = 'pack' and a.subject_id = $1 order by a.at desc, a.id desc limit 30`;

/** Changes to many loops at once among which are some of this pack. */
export const changesOfPackSql = /* sql */ `
  select 'change-' || c.id as id, p.name::text as person, c.change, c.state, count(*)::int as loops, c.made_at as at
  from loops l join changed_loops d on d.loop_id = l.id join loop_changes c on c.id = d.change_id join people p on p.id = c.person_id
  where l.pack_id = $1 group by c.id, p.name order by c.made_at desc limit 30`;

/** What a demo mix is arranged from: loops that repeat. A pack of thousands has enough in its first hundreds. */
export const demoCandidatesSql = /* sql */ `
  select id, chroma from loops l where ${ofPack} and kind = 'loop' and tempo_bpm is not null and beats is not null order by id limit 600`;

export const ofPackIdsSql = /* sql */ `select id from loops where pack_id = $1 order by id`;
