/** Frozen history: a version that is forgotten, and a note that is taken back, can be brought back for a day. */
export const up = /* sql */ `
alter table project_versions add column gone_at timestamptz;
alter table project_notes add column gone_at timestamptz;
create index project_versions_gone on project_versions (gone_at) where gone_at is not null;
create index project_notes_gone on project_notes (gone_at) where gone_at is not null;
`;

export const down = /* sql */ `
delete from project_versions where gone_at is not null;
delete from project_notes where gone_at is not null;
alter table project_versions drop column gone_at;
alter table project_notes drop column gone_at;
`;
