import fc from 'fast-check';
import { Client } from 'pg';
import { sureFrom } from '~core/analysis/facts';
import { insertLibrary } from '../generators/insert-library';
import { freshDatabase } from './database';

/** Loaded after the database is made, whose address they read once. */
const load = async () => ({
  ...(await import('~server/db/connection')),
  ...(await import('~server/db/queries/doubts')),
  ...(await import('~server/services/people.server')),
});
const packCount = 60;
let db: Awaited<ReturnType<typeof load>>, close: () => Promise<void>, personId: number;
beforeAll(async () => {
  close = await freshDatabase();
  db = await load();
  const added = await db.addPerson('Ada Quill', 'a long password', null);
  if (!added.ok) throw new Error('not added');
  personId = added.id;
  const client = new Client({ connectionString: process.env.DATABASE_URL });
  await client.connect();
  await insertLibrary(client, 400, personId);
  await client.query(
    `insert into packs (id, name, vendor, licence, description, added_by, added_at) overriding system value
     select 1000 + k, 'Pack ' || k, '', '', '', $1, now() - interval '60 days' from generate_series(1, ${packCount}) k`,
    [personId],
  );
  await client.query(
    `update loops set pack_id = 1001 + (id * 7919) % ${packCount}, set_id = null, tempo_confidence = ((id * 31) % 97) / 97.0, key_confidence = ((id * 57) % 89) / 89.0`,
  );
  await client.query(`delete from packs where id <= 1000`);
  await client.end();
});
afterAll(() => close());

test('whatever packs weigh, and however many weigh the same, pages are those of all doubts in order of worth', async () => {
  const rows = await db.selectRows<{ id: number; packId: number; tempo: number; key: number }>(
      'select id, pack_id as "packId", tempo_confidence::float8 as tempo, key_confidence::float8 as key from loops',
    ),
    packIds = [...new Set(rows.map(({ packId }) => packId))];
  expect(packIds).toHaveLength(packCount);
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.constantFrom(1, 1.5, 1.5, 2.25), { minLength: packCount, maxLength: packCount }),
      fc.subarray(packIds, { maxLength: 5 }),
      fc.nat(120),
      async (plainWeights, used, offset) => {
        const weightOf = new Map(packIds.map((id, k) => [id, used.includes(id) ? 3 + used.indexOf(id) / 8 : plainWeights[k]])),
          weights = [...new Set(weightOf.values())]
            .map((weight) => ({ weight, packIds: packIds.filter((id) => weightOf.get(id) === weight) }))
            .sort((a, b) => b.packIds.length - a.packIds.length),
          { sql, bind } = db.doubtsSql(['tempo', 'key'], weights, 40, offset),
          found = await db.selectRows<{ id: number; attribute: 'tempo' | 'key' }>(sql, bind),
          wanted = rows
            .flatMap(({ id, packId, tempo, key }) =>
              (
                [
                  ['key', key],
                  ['tempo', tempo],
                ] as const
              ).flatMap(([attribute, confidence]) =>
                confidence < sureFrom ? [{ id, attribute, worth: (1 - confidence) * (weightOf.get(packId) as number) }] : [],
              ),
            )
            .sort((a, b) => b.worth - a.worth || a.id - b.id || (a.attribute < b.attribute ? -1 : 1))
            .slice(offset, offset + 40);
        expect(found).toEqual(wanted.map(({ id, attribute }) => ({ id, attribute })));
      },
    ),
    { numRuns: 60 },
  );
});

test('packs are weighed once for all that weigh the same, the weight of most first', async () => {
  const weigh = () => db.selectRows<{ weight: number; packIds: number[] }>(db.packWeightsSql, [personId]);
  expect((await weigh()).map(({ weight, packIds }) => [weight, packIds.length])).toEqual([[1, packCount]]);
  await db.selectRows('insert into favourites (person_id, loop_id) select $1, min(id) from loops', [personId]);
  await db.selectRows('update packs set added_at = now() where id > 1000 and id <= 1020 returning id');
  const [most, recent, used] = await weigh();
  expect([most.weight, recent.weight]).toEqual([1, 1.5]);
  expect([most, recent].map(({ packIds }) => packIds.length).reduce((sum, count) => sum + count, 0)).toBe(packCount - 1);
  expect(used.packIds).toHaveLength(1);
  expect(used.weight).toBeCloseTo(1 + Math.log(1.5), 9);
});
