export const licencesSql = /* sql */ `select id, licence from packs where id = any($1::int[])`;

export const findExportSql = /* sql */ `select p.name, e.file_sha256 as "fileSha", e.credits, e.what, e.bits, e.rate_hz as "rateHz" from exports e join projects p on p.id = e.project_id where e.id = $1`;

/** Lets go of the files of all but the latest exports of each kind in a project. */
export const forgetOlderSql = /* sql */ `
  with older as (
    select id, file_sha256 as file from (
      select id, file_sha256, row_number() over (partition by what order by id desc) as place from exports where project_id = $1 and file_sha256 is not null
    ) kept where place > $2)
  update exports e set file_sha256 = null from older where e.id = older.id returning older.file as "fileSha"`;
