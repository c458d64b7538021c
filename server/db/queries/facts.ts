export const tagNamesSql = /* sql */ `select t.name::text as name from loop_tags lt join tags t on t.id = lt.tag_id where lt.loop_id = $1`;
