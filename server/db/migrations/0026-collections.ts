/** Frozen history: a person has one collection of a name; what lies in it is found by its loop. */
export const up = /* sql */ `
create unique index collections_by_name on collections (person_id, lower(name)) where archived_at is null;
create index collection_loops_loop on collection_loops (loop_id);
`;

export const down = /* sql */ `
drop index collection_loops_loop;
drop index collections_by_name;
`;
