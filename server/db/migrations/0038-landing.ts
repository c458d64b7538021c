/**
 * Frozen history: where a sound lands is a fact of it, and a clip of it is placed by that. What rose ended on its clip's end before. Kept steps,
 * versions and mixdowns get the new member as text, see 0036.
 */
const withLanding = (column: string): string =>
  `replace(${column}::text, '"kind": "clip"', '"kind": "clip", "landsAfterBeats": null')::jsonb`;

export const up = /* sql */ `
alter table loops add column landing_seconds double precision;
alter table clips add column lands_after_beats double precision;
update clips c set lands_after_beats = c.length_beats from loops l where l.id = c.loop_id and l.instrument = 'riser' and l.kind <> 'loop';
update project_edits set edit = ${withLanding('edit')}, inverse = ${withLanding('inverse')};
update project_versions set project = ${withLanding('project')};
update exports set project = ${withLanding('project')} where project is not null;
`;

export const down = /* sql */ `
delete from facts where attribute = 'landing';
alter table clips drop column lands_after_beats;
alter table loops drop column landing_seconds;
`;
