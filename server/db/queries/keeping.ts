export const lockHashSql = /* sql */ `select pg_advisory_xact_lock(hashtext('store'), hashtext($1))`;

/** Every place that refers to a stored file. */
export const referredSql = `
  select file_sha256 as sha256 from loops union select sound_sha256 from loops
  union select file_sha256 from import_files where file_sha256 is not null and state in ('queued', 'working')
  union select file_sha256 from pack_documents
  union select file_sha256 from asked_sounds where file_sha256 is not null
  union select file_sha256 from pack_demos where file_sha256 is not null
  union select file_sha256 from makings where file_sha256 is not null
  union select file_sha256 from exports where file_sha256 is not null
  union select file_sha256 from outside_loops where file_sha256 is not null union select sound_sha256 from outside_loops where sound_sha256 is not null`;

export const isReferredSql = `select 1 from (${referredSql}) kept where sha256 = $1`;
