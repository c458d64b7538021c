/** Frozen history: a word knows which later one ended it, so that taking that one back lets it hold again, as theirs who said it. */
export const up = /* sql */ `
alter table facts add column ended_by bigint;
`;

export const down = /* sql */ `
alter table facts drop column ended_by;
`;
