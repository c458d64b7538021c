import { DatabaseError, QueryTypes, type Transaction } from 'sequelize';
import type { inTransaction as InTransaction } from '~server/db/transaction';
import { beats, importAll, openLibrary, until, wav, type Library, type Services } from './services';

let library: Library, s: Services, person: number, inTransaction: typeof InTransaction, batchId: number, first: number, second: number;
beforeAll(async () => {
  library = await openLibrary();
  ({ s, person } = library);
  ({ inTransaction } = await import('~server/db/transaction'));
  const { id, lines } = await importAll(library, 'Two ways', [
    ['One way 93 bpm.wav', wav(beats(93, 8))],
    ['Other way 95 bpm.wav', wav(beats(95, 8))],
  ]);
  batchId = id;
  [first, second] = lines.map(({ loopId }) => loopId as number).sort((a, b) => a - b);
});
afterAll(() => library.close());

/** Until somebody waits for a lock. */
const somebodyWaits = () =>
  until(
    async () =>
      (await s.db.selectRows("select 1 from pg_stat_activity where wait_event_type = 'Lock' and datname = current_database()")).length > 0,
  );

describe('a transaction', () => {
  test('that the database ends so that another can go on begins again, and both are done', async () => {
    const { sequelize } = s.db,
      add = (id: number, transaction: Transaction) =>
        sequelize.query('update meeting set sum = sum + 1 where id = $1', { bind: [id], transaction });
    await sequelize.query('create table meeting (id int primary key, sum int not null)');
    await sequelize.query('insert into meeting values (1, 0), (2, 0)');
    const other = await sequelize.transaction();
    // Ours is the one that is ended, however slow the machine.
    await sequelize.query("set local deadlock_timeout = '10min'", { transaction: other });
    await add(2, other);
    let tries = 0;
    const done = inTransaction(async (transaction) => {
      tries++;
      await add(1, transaction);
      await add(2, transaction);
      return 'done';
    });
    expect(await somebodyWaits()).toBe(true);
    await add(1, other);
    await other.commit();
    expect(await done).toBe('done');
    expect(tries).toBe(2);
    expect(await s.db.selectRows('select id, sum from meeting order by id')).toEqual([
      { id: 1, sum: 2 },
      { id: 2, sum: 2 },
    ]);
  });
  test.each([
    ['always collides is given up with what the database said', '40P01', 5],
    ['fails for another reason is not tried again', '23505', 1],
  ])('that %s', async (_, code, wanted) => {
    const error = new DatabaseError(Object.assign(new Error('ended'), { sql: '', code }));
    let tries = 0;
    await expect(inTransaction(async () => Promise.reject(++tries > 0 ? error : null))).rejects.toBe(error);
    expect(tries).toBe(wanted);
  });
});

test('a file whose job meets a collision is taken in by the next try of the job', async () => {
  const { sequelize } = s.db;
  // Counted outside of transactions: what is ended counts too.
  await sequelize.query('create sequence collisions');
  await sequelize.query(`create function collide() returns trigger language plpgsql as $$ begin
    if nextval('collisions') = 1 then raise exception 'ended' using errcode = 'deadlock_detected'; end if;
    return new;
  end $$`);
  await sequelize.query(
    `create trigger collides before insert on loops for each row when (new.title like 'Comes again%') execute function collide()`,
  );
  const { lines } = await importAll(library, 'Came again', [['Comes again 97 bpm.wav', wav(beats(97, 8))]]);
  expect(lines).toMatchObject([{ state: 'done', loopId: expect.any(Number) as number }]);
  expect(await s.db.selectRows('select last_value::int as times from collisions')).toEqual([{ times: 2 }]);
});

test('an order of a collection is kept, though somebody else has its loops in another order under way', async () => {
  const { collectedIds, makeCollection, orderCollected, setCollected } = await import('~server/services/collections.server'),
    made = await makeCollection(person, 'Ordered by two', {}),
    { sequelize } = s.db;
  if (typeof made === 'string') throw new Error(made);
  await inTransaction(async (transaction) => {
    for (const loopId of [first, second])
      await setCollected({ name: 'Ordered by two', personId: person, loopId, isWanted: true }, transaction);
  });
  const other = await sequelize.transaction(),
    move = (loopId: number) =>
      sequelize.query('update collection_loops set position = 5 where collection_id = $1 and loop_id = $2', {
        bind: [made.id, loopId],
        transaction: other,
      });
  await sequelize.query("set local deadlock_timeout = '10min'", { transaction: other });
  await move(second);
  const ordered = orderCollected(made.id, [second, first]);
  expect(await somebodyWaits()).toBe(true);
  await move(first);
  await other.commit();
  await ordered;
  expect(await collectedIds(made.id)).toEqual([second, first]);
});

test('who writes several loops takes them by their numbers, however they lie: two wait in one direction', async () => {
  const [{ packId }] = await s.db.selectRows<{ packId: number }>('select pack_id as "packId" from loops where id = $1', [first]),
    { sequelize } = s.db;
  // Without an index rows are found as they lie.
  await sequelize.query("update pg_index set indisvalid = false where indrelid = 'loops'::regclass");
  for (const write of [
    () => s.imports.takeBackBatch(batchId, true, person),
    () => s.imports.takeBackBatch(batchId, false, person),
    () => s.loops.archiveLoops([second, first], true, person),
    () => s.loops.archiveLoops([second, first], false, person),
    () => s.packs.archivePack(packId, true, person),
    () => s.packs.archivePack(packId, false, person),
  ]) {
    // The first lies behind the second from now on.
    await sequelize.query('update loops set title = title where id = $1', { bind: [first] });
    const written: Promise<unknown>[] = [],
      transaction = await sequelize.transaction(),
      take = (loopId: number) =>
        sequelize.query('select id from loops where id = $1 for no key update', {
          bind: [loopId],
          transaction,
          type: QueryTypes.SELECT,
        });
    // Where they wait for each other it is told here.
    await sequelize.query("set local deadlock_timeout = '50ms'", { transaction });
    try {
      expect(await take(first)).toHaveLength(1);
      written.push(write());
      expect(await somebodyWaits()).toBe(true);
      expect(await take(second)).toHaveLength(1);
    } finally {
      await transaction.rollback();
    }
    await Promise.all(written);
  }
});
