/** Frozen history: how sure kind and instrument are, so that the doubtful ones can be listed like tempo and key. */
export const up = /* sql */ `
alter table loops add column kind_confidence real check (kind_confidence between 0 and 1);
alter table loops add column instrument_confidence real check (instrument_confidence between 0 and 1);
`;

export const down = /* sql */ `
alter table loops drop column instrument_confidence;
alter table loops drop column kind_confidence;
`;
