import type { Rating } from '~contracts/rating';
import { selectRows, sequelize } from '../db/connection';
import { rateSql, ratingsOfSql, unrateSql } from '../db/queries/searches';

/** What everybody gave a loop, the latest first. */
export const ratingsOf = (loopId: number, personId: number): Promise<Rating[]> => selectRows<Rating>(ratingsOfSql, [loopId, personId]);

/** Gives a loop stars and a note; neither takes both away. @param stars 1–5, or null */
export async function rate(personId: number, loopId: number, stars: number | null, note: string): Promise<void> {
  if (stars === null && note === '') await sequelize.query(unrateSql, { bind: [personId, loopId] });
  else await sequelize.query(rateSql, { bind: [personId, loopId, stars, note] });
}
