import { Client } from 'pg';
import { freshDatabase } from './database';

/** Loaded after the database is made, whose address they read once. */
const load = async () => ({ ...(await import('~server/db/connection')), ...(await import('~server/db/wanted')) });
let db: Awaited<ReturnType<typeof load>>, close: () => Promise<void>;
beforeAll(async () => {
  close = await freshDatabase();
  db = await load();
});
afterAll(() => close());

const running = async (mark: string): Promise<number> =>
  (
    await db.selectRows<{ count: number }>("select count(*)::int as count from pg_stat_activity where state = 'active' and query like $1", [
      `/* ${mark} */%`,
    ])
  )[0].count;

async function until(holds: () => Promise<boolean>): Promise<void> {
  const until = Date.now() + 10_000;
  while (!(await holds())) if (Date.now() > until) throw new Error('It did not come to that within 10 s.');
}

test('what is given up ends in the database, and its connection serves the next', async () => {
  const leaving = new AbortController(),
    asked = db.whileWanted(leaving.signal, () => db.selectRows('/* given up */ select pg_sleep(60)')),
    ended = expect(asked).rejects.toThrow(/aborted/i);
  await until(async () => (await running('given up')) === 1);
  leaving.abort();
  await ended;
  await until(async () => (await running('given up')) === 0);
  expect(await db.whileWanted(new AbortController().signal, () => db.selectRows('select 1 as one'))).toEqual([{ one: 1 }]);
});
test('when all connections hold queries that are given up at once, they end, and the next is answered', async () => {
  const leaving = new AbortController(),
    asked = Array.from({ length: 12 }, () =>
      db.whileWanted(leaving.signal, () => db.selectRows('/* all at once */ select pg_sleep(60)')).catch((error: Error) => error.name),
    );
  // Asked beside the pool, all of whose connections are taken.
  const beside = new Client({ connectionString: process.env.DATABASE_URL });
  await beside.connect();
  const busy = async () =>
    Number(
      (await beside.query("select count(*) from pg_stat_activity where state = 'active' and query like '/* all at once */%'")).rows[0]
        .count,
    );
  await until(async () => (await busy()) === 8);
  leaving.abort();
  const began = Date.now();
  expect(await Promise.all(asked)).toEqual(asked.map(() => 'AbortError'));
  expect(await db.selectRows('select 1 as one')).toEqual([{ one: 1 }]);
  expect(Date.now() - began).toBeLessThan(10_000);
  await beside.end();
});
test('what is asked after leaving is not asked at all', async () => {
  const query = jest.spyOn(db.sequelize, 'query');
  await expect(db.whileWanted(AbortSignal.abort(), () => db.selectRows('select 1'))).rejects.toThrow(/aborted/i);
  expect(query).not.toHaveBeenCalled();
  query.mockRestore();
});
test('rows are the same, whether somebody may leave or not', async () => {
  const sql =
      'select 1::int as whole, 2.5::float8 as number, $1::text as text, now()::date as day, \'{"a": 1}\'::jsonb as tree, array[1, 2] as list',
    plain = await db.selectRows(sql, ['x']);
  expect(await db.whileWanted(new AbortController().signal, () => db.selectRows(sql, ['x']))).toEqual(plain);
});
test('a wrong query says what is wrong', () =>
  expect(db.whileWanted(new AbortController().signal, () => db.selectRows('select nothing_of_that_name'))).rejects.toThrow(
    /nothing_of_that_name/,
  ));
