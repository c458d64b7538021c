/** Frozen history: which part a loop has among the others of its set. */
export const up = /* sql */ `
alter table loops add column set_role text;
`;

export const down = /* sql */ `
delete from facts where attribute = 'setRole';
alter table loops drop column set_role;
`;
