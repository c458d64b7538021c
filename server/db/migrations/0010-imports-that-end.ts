/** Frozen history: when an import was last touched; what says to whom a stored file belongs is found by index. */
export const up = /* sql */ `
alter table import_batches add column touched_at timestamptz not null default now();
create index on loops (sound_sha256);
create index on import_files (file_sha256) where file_sha256 is not null;
create index on import_files (loop_id) where loop_id is not null;
create index on exports (file_sha256) where file_sha256 is not null;
create index on loops (added_by);
create index on facts (person_id) where person_id is not null;
create index on activity (subject, subject_id);
`;

export const down = /* sql */ `
drop index activity_subject_subject_id_idx, facts_person_id_idx, loops_added_by_idx, exports_file_sha256_idx, import_files_loop_id_idx, import_files_file_sha256_idx, loops_sound_sha256_idx;
alter table import_batches drop column touched_at;
`;
