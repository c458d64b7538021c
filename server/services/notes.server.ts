import { selectRows } from '../db/connection';
import { notesByBarOfSql } from '../db/queries/notes';

/** Strengths of the twelve pitch classes by bar; empty for what is not tuned or not known. */
export async function notesByBarOf(loopId: number): Promise<number[][]> {
  if (!Number.isInteger(loopId)) return [];
  const [row] = await selectRows<{ bars: { pitchClasses: number[] }[] | null; pitched: boolean | null }>(notesByBarOfSql, [loopId]);
  return row?.pitched && row.bars ? row.bars.map(({ pitchClasses }) => pitchClasses) : [];
}
