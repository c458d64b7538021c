import { selectRows } from '../db/connection';

/** Strengths of the twelve pitch classes by bar; empty for what is not tuned or not known. */
export async function notesByBarOf(loopId: number): Promise<number[][]> {
  if (!Number.isInteger(loopId)) return [];
  const [row] = await selectRows<{ bars: { pitchClasses: number[] }[] | null; pitched: boolean | null }>(
    "select detail->'bars' as bars, pitched from loops where id = $1",
    [loopId],
  );
  return row?.pitched && row.bars ? row.bars.map(({ pitchClasses }) => pitchClasses) : [];
}
