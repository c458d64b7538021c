export const notesByBarOfSql = /* sql */ `select detail->'bars' as bars, pitched from loops where id = $1`;
