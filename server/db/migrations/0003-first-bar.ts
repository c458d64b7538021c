/** Frozen history: where bar 1 begins can be said by a person. */
export const up = /* sql */ `
alter table facts drop constraint facts_attribute_check;
alter table facts add constraint facts_attribute_check
  check (attribute in ('kind', 'tempo', 'beats', 'meter', 'start', 'key', 'instrument'));
`;

export const down = /* sql */ `
delete from facts where attribute = 'start';
alter table facts drop constraint facts_attribute_check;
alter table facts add constraint facts_attribute_check
  check (attribute in ('kind', 'tempo', 'beats', 'meter', 'key', 'instrument'));
`;
