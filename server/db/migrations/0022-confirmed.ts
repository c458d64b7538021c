/** Frozen history: a person's word that came with a file from another library. */
export const up = /* sql */ `
alter table facts drop constraint facts_source_check;
alter table facts add constraint facts_source_check
  check (source in ('person', 'confirmed', 'tag', 'file-name', 'folder', 'length', 'sound', 'notes', 'set', 'pack'));
`;

export const down = /* sql */ `
delete from facts where source = 'confirmed';
alter table facts drop constraint facts_source_check;
alter table facts add constraint facts_source_check
  check (source in ('person', 'tag', 'file-name', 'folder', 'length', 'sound', 'notes', 'set', 'pack'));
`;
