/** Frozen history: what charts and later readers draw on, one document with the loop; sets and packs as sources of facts. */
export const up = /* sql */ `
alter table loops add column detail jsonb;
alter table facts drop constraint facts_source_check;
alter table facts add constraint facts_source_check
  check (source in ('person', 'tag', 'file-name', 'folder', 'length', 'sound', 'notes', 'set', 'pack'));
`;

export const down = /* sql */ `
alter table loops drop column detail;
delete from facts where source in ('set', 'pack');
alter table facts drop constraint facts_source_check;
alter table facts add constraint facts_source_check
  check (source in ('person', 'tag', 'file-name', 'folder', 'length', 'sound', 'notes'));
`;
