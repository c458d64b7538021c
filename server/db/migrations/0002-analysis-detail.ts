/** Frozen history: what charts and later readers draw on, one document with the loop. */
export const up = /* sql */ `
alter table loops add column detail jsonb;
`;

export const down = /* sql */ `
alter table loops drop column detail;
`;
