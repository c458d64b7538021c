export const licencesSql = /* sql */ `select id, licence from packs where id = any($1::int[])`;

export const findExportSql = /* sql */ `select p.name, e.file_sha256 as "fileSha", e.credits, e.what, e.bits, e.rate_hz as "rateHz" from exports e join projects p on p.id = e.project_id where e.id = $1`;
