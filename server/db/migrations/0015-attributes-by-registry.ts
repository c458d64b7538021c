/** Frozen history: which attributes there are, the registry says; where bar 1 begins has one name. */
export const up = /* sql */ `
alter table facts drop constraint facts_attribute_check;
alter table loops rename column lead_seconds to first_bar_seconds;
`;

export const down = /* sql */ `
alter table loops rename column first_bar_seconds to lead_seconds;
delete from facts where attribute not in ('kind', 'tempo', 'beats', 'meter', 'start', 'key', 'instrument');
alter table facts add constraint facts_attribute_check check (attribute in ('kind', 'tempo', 'beats', 'meter', 'start', 'key', 'instrument'));
`;
