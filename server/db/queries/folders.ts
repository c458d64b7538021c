export const foldersSql = /* sql */ `
  select w.id, w.path, w.pack_id as "packId", w.pack_name as "packName", w.is_watched as "isWatched", w.message, w.looked_at as "lookedAt",
    (select count(*)::int from folder_files f where f.folder_id = w.id) as files
  from watched_folders w order by w.path`;

export const watchedIdsSql = /* sql */ `select id from watched_folders where is_watched or growing > 0`;

/** What a folder's earlier batch has made of its pack, once it has one. */
export const packOfFolderSql = /* sql */ `
  select b.pack_id as "packId" from import_batches b join packs p on p.id = b.pack_id where b.folder_id = $1 and p.archived_at is null order by b.id desc limit 1`;

/** Loops follow a file that was moved; where another lies already, they stay. */
export const moveLoopsSql = /* sql */ `
  update loops l set vendor_path = $3, file_name = $4 where pack_id = $1 and vendor_path = $2 and not exists (select 1 from loops o where o.pack_id = $1 and o.vendor_path = $3) returning id`;

export const vendorPathsSql = /* sql */ `select vendor_path as path from loops where pack_id = $1`;
