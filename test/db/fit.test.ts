import fc from 'fast-check';
import { coarseCost } from '~core/search/fit/coarse';
import { families, type Family } from '~core/theory/instruments';
import { allKeys } from '~core/theory/key';
import { freshDatabase } from './database';

/** Loaded after the database is made, whose address they read once. */
const load = async () => ({ ...(await import('~server/db/connection')), ...(await import('~server/db/queries/loops')) });
let db: Awaited<ReturnType<typeof load>>, close: () => Promise<void>;
beforeAll(async () => {
  close = await freshDatabase();
  db = await load();
});
afterAll(() => close());

const key = fc.option(fc.constantFrom(...allKeys)),
  tempo = fc.double({ min: 30, max: 300, noNaN: true }),
  loop = fc.record({
    tempoBpm: fc.option(tempo),
    key,
    // A key is one of what has a pitch.
    pitched: fc.option(fc.boolean()),
    family: fc.option(fc.constantFrom(...(Object.keys(families) as Family[]))),
  }),
  share = fc.integer({ min: 0, max: 20 }).map((tenths) => tenths / 10),
  weight = fc.record({ stretch: share, shift: share });

test('the order that the database gives costs as the score does, whatever is known of loop and project', () =>
  fc.assert(
    fc.asyncProperty(
      fc.array(loop, { minLength: 1, maxLength: 40 }),
      fc.record({ tempoBpm: tempo, key }),
      weight,
      async (drawn, project, weights) => {
        const loops = drawn.map((each) => (each.pitched === true ? each : { ...each, key: null })),
          rows = await db.selectRows<{ cost: number }>(
            `select (${db.fitCostSql(project, weights)})::float8 as cost from unnest($1::float8[], $2::int[], $3::text[], $4::boolean[], $5::text[])
            with ordinality as l(tempo_bpm, key_tonic, key_mode, pitched, family, place) order by place`,
            [
              loops.map(({ tempoBpm }) => tempoBpm),
              loops.map((each) => each.key?.tonic ?? null),
              loops.map((each) => each.key?.mode ?? null),
              loops.map(({ pitched }) => pitched),
              loops.map(({ family }) => family),
            ],
          );
        rows.forEach(({ cost }, k) => expect(cost).toBeCloseTo(coarseCost(loops[k], project, weights), 6));
      },
    ),
    { numRuns: 60 },
  ));
