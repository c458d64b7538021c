/** Tags of some loops, the words for their sound, and the tags most used by all; each once, in that order. */
export const suggestedTagsSql = /* sql */ `
with own as (
    select t.name::text as name, count(*) as uses from loop_tags lt join tags t on t.id = lt.tag_id where lt.loop_id = any($1::int[]) group by 1
  ), sound as (
    select word as name, count(*) as uses from loops l, jsonb_array_elements_text(coalesce(l.detail->'character', '[]')) word where l.id = any($1::int[]) group by 1
  ), used as (
    select t.name::text as name, count(*) as uses from loop_tags lt join tags t on t.id = lt.tag_id group by 1 order by 2 desc, 1 limit 12
  ), all_of_them as (
    select name, 0 as place, uses from own union all select name, 1, uses from sound union all select name, 2, uses from used
  )
select name from (select name, min(place) as place, max(uses) as uses from all_of_them group by name) each order by place, uses desc, name limit $2`;
