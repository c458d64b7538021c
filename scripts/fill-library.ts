// Fills an empty library with generated rows, for benchmarks: node --import tsx scripts/fill-library.ts COUNT PERSON_ID, with DATABASE_URL.
import { Client } from 'pg';
import { insertLibrary } from '../test/generators/insert-library';

const [count, personId] = process.argv.slice(2).map(Number),
  client = new Client({ connectionString: process.env.DATABASE_URL });
await client.connect();
// Triggers sleep meanwhile: nobody keeps up with a library that is being made up.
await client.query('set session_replication_role = replica');
await insertLibrary(client, count, personId, { seed: 7 });
await client.query(
  `insert into search_words select distinct word from loops, regexp_split_to_table(search_text, '[^[:alnum:]]+') word where length(word) between 4 and 40 and word !~ '[0-9]' on conflict do nothing`,
);
// As a library that grew by itself has been by then.
await client.query('vacuum analyze');
await client.end();
