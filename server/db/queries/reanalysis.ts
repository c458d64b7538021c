export const storedLoopSql = /* sql */ `select id, media, file_sha256 as "fileSha", vendor_path as "vendorPath", pack_id as "packId",
            heard_by as "heardBy", detail->'readings' as readings
     from loops where id = $1`;

/** Of which some part was heard by another version than today's, which `$1` is. */
const outdated = 'not heard_by @> $1::jsonb';

export const outdatedLoopsSql = `select id from loops where ${outdated} order by id`;

export const outdatedOfPackSql = `select count(*)::int as count from loops where ${outdated} and pack_id = $2`;
