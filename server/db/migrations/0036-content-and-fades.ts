/**
 * Frozen history: what a clip plays becomes its content, clips fade and are muted by themselves, tracks are set aside. Steps that were kept, and
 * mixdowns asked for, are brought into the new shape as text: of two members of one name the later counts, so that what was said stays.
 */
export const inNewShape = (column: string) =>
  `replace(replace(regexp_replace(${column}::text, '"loopId": ([0-9]+)', '"content": {"kind": "loop", "loopId": \\1}', 'g'),
    '"kind": "clip"', '"kind": "clip", "muted": false, "overrides": {}, "fadeInBeats": 0, "fadeOutBeats": 0'),
    '"kind": "track"', '"kind": "track", "setAside": false')::jsonb`;
export const inOldShape = (column: string) =>
  `regexp_replace(${column}::text, '"content": \\{"kind": "loop", "loopId": ([0-9]+)\\}', '"loopId": \\1', 'g')::jsonb`;

const each = (shape: (column: string) => string): string => `
update project_edits set edit = ${shape('edit')}, inverse = ${shape('inverse')};
update exports set project = ${shape('project')} where project is not null;`;

export const up = /* sql */ `
alter table clips add column fade_in_beats double precision not null default 0 check (fade_in_beats >= 0),
  add column fade_out_beats double precision not null default 0 check (fade_out_beats >= 0),
  add column muted boolean not null default false;
alter table tracks add column set_aside boolean not null default false;
${each(inNewShape)}
`;

export const down = /* sql */ `
${each(inOldShape)}
alter table tracks drop column set_aside;
alter table clips drop column muted, drop column fade_out_beats, drop column fade_in_beats;
`;
