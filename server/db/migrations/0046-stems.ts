/** Frozen history: a piece goes out as its mixdown, or with its stems and notes. */
export const up = /* sql */ `
alter table exports add column what text not null default 'mixdown' check (what in ('mixdown', 'stems'));
`;

export const down = /* sql */ `
alter table exports drop column what;
`;
