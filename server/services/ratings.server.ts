import type { Rating } from '~contracts/rating';
import { selectRows, sequelize } from '../db/connection';
import { rateSql, ratingsOfSql, unrateSql } from '../db/queries/searches';

/** What everybody gave a loop, the latest first. */
export const ratingsOf = (loopId: number, personId: number): Promise<Rating[]> => selectRows<Rating>(ratingsOfSql, [loopId, personId]);

/** What is said of a loop: stars 1–5, null takes them away; an empty note takes it away. What is left out stays as it is. */
export interface Said {
  readonly stars?: number | null;
  readonly note?: string;
}

/** Gives a loop stars, a note, or both: each by itself, since a page may not know yet what was said of the other. */
export async function rate(personId: number, loopId: number, { stars, note }: Said): Promise<void> {
  await sequelize.query(rateSql, { bind: [personId, loopId, stars !== undefined, stars ?? null, note ?? null] });
  await sequelize.query(unrateSql, { bind: [personId, loopId] });
}
