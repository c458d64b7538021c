/** Frozen history: what a loop is always fitted with, what a clip changes of that, the way it is stretched, and the fingerprint get the names the field uses. */
const inJson = (pairs: readonly (readonly [from: string, to: string])[], column: string): string =>
  `${pairs.reduce((text, [from, to]) => `replace(${text}, '"${from}": ', '"${to}": ')`, `${column}::text`)}::jsonb`;

export const up = /* sql */ `
alter table loops rename column handling to fit_defaults;
alter table loops rename column print to fingerprint;
alter table clips rename column treatment to overrides;
update loops set fit_defaults = ${inJson([['engine', 'stretchMode']], 'fit_defaults')} where fit_defaults ? 'engine';
update loops set heard_by = heard_by - 'print' || jsonb_build_object('fingerprint', heard_by->'print') where heard_by ? 'print';
update clips set overrides = ${inJson([['engine', 'stretchMode']], 'overrides')} where overrides ? 'engine';
update exports set project = ${inJson(
  [
    ['treatment', 'overrides'],
    ['engine', 'stretchMode'],
  ],
  'project',
)} where project is not null;
`;

export const down = /* sql */ `
update exports set project = ${inJson(
  [
    ['overrides', 'treatment'],
    ['stretchMode', 'engine'],
  ],
  'project',
)} where project is not null;
update clips set overrides = ${inJson([['stretchMode', 'engine']], 'overrides')} where overrides ? 'stretchMode';
update loops set heard_by = heard_by - 'fingerprint' || jsonb_build_object('print', heard_by->'fingerprint') where heard_by ? 'fingerprint';
update loops set fit_defaults = ${inJson([['stretchMode', 'engine']], 'fit_defaults')} where fit_defaults ? 'stretchMode';
alter table clips rename column overrides to treatment;
alter table loops rename column fingerprint to print;
alter table loops rename column fit_defaults to handling;
`;
