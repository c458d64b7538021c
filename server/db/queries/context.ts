export const loopsOfPackSql = /* sql */ `select id, set_id as "setId" from loops where pack_id = $1 and archived_at is null order by id`;
