/** Under what a loop `l` of a pack `p` stands: what its pack says, and what that says of which it was made. */
export const licenceSql = `concat_ws(' · ', nullif(p.licence, ''), nullif(l.made_under, ''))`;

/** Licences of some loops, each once. */
export const licencesOfLoopsSql = /* sql */ `
select distinct ${licenceSql} as licence from loops l join packs p on p.id = l.pack_id where l.id = any($1::int[]) order by 1`;
