/**
 * Frozen history: a piece changes its key at sections and says its church mode, keeps patterns of notes that clips play, and clips go with its chords;
 * of a loop its chords may be stated, by a person or because it was made over them. Kept steps, versions, mixdowns and what loops were made of get the
 * new members as text, see 0036.
 */
const inNewShape = (column: string): string =>
    `replace(replace(${column}::text, '"kind": "clip"', '"kind": "clip", "chordWay": null, "shiftMarks": null'),
    '"kind": "project"', '"kind": "project", "patterns": []')::jsonb`,
  inOldShape = (column: string): string => `replace(replace(${column}::text, '"chordWay": null, ', ''), '"shiftMarks": null, ', '')::jsonb`;

const each = (shape: (column: string) => string): string => `
update project_edits set edit = ${shape('edit')}, inverse = ${shape('inverse')};
update project_versions set project = ${shape('project')};
update makings set how = ${shape('how')};
update exports set project = ${shape('project')} where project is not null;`;

export const up = /* sql */ `
alter table projects add column key_church text;
alter table sections add column key jsonb;
alter table clips alter column loop_id drop not null,
  add column pattern_id text,
  add column chord_way text check (chord_way in ('roots', 'notes')),
  add column shift_marks jsonb,
  add constraint clips_play_one check ((loop_id is null) <> (pattern_id is null));
create table patterns (
  project_id int not null references projects on delete cascade,
  id text not null,
  position int not null,
  name text not null,
  length_beats double precision not null check (length_beats > 0),
  notes jsonb not null,
  is_drums boolean not null,
  instrument text,
  key jsonb,
  chords jsonb not null,
  from_loop_id int references loops,
  primary key (project_id, id)
);
create index patterns_from_loop on patterns (from_loop_id) where from_loop_id is not null;
alter table loops add column stated_chords jsonb;
${each(inNewShape)}
`;

export const down = /* sql */ `
delete from clips where loop_id is null;
${each(inOldShape)}
alter table loops drop column stated_chords;
drop table patterns;
alter table clips drop constraint clips_play_one, drop column shift_marks, drop column chord_way, drop column pattern_id,
  alter column loop_id set not null;
alter table sections drop column key;
alter table projects drop column key_church;
`;
