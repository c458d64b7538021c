import type { FitMark } from '~contracts/fit-mark';
import type { LoopCard } from '~contracts/loop-card';
import { licenceAllows } from '~core/library/licence';
import { ProfileReader, profileLength } from '~core/search/fit/profile';
import type { Scene } from '~core/search/fit/scene';
import { judgeFit, type FitInParts } from '~core/search/fit/score';
import { fitInWords, partInWords } from '~core/search/fit/words';
import { fitParts, usualWeights, type FitPart, type FitWeights } from '~core/search/fit/weights';
import { selectRows, sequelize } from '../db/connection';
import { fitRowsSql, fitWeightsSql, keepFitWeightsSql } from '../db/queries/scene';

const nobodyHeard = new Uint8Array(profileLength);

/** How well each of a page's loops belongs to what sounds, and why. */
export async function fitMarks(cards: readonly LoopCard[], scene: Scene, weights: FitWeights): Promise<Map<number, FitMark>> {
  const rows = await selectRows<{ id: number; setId: number | null; licence: string; profile: Buffer | null }>(fitRowsSql, [
      cards.map(({ id }) => id),
    ]),
    beside = new Map(rows.map((row) => [row.id, row]));
  return new Map(
    cards.flatMap((card) => {
      const row = beside.get(card.id);
      if (!row) return [];
      const fit = judgeFit(
        {
          ...card.source,
          bars: card.bars,
          meter: card.meter,
          setId: row.setId,
          packId: card.packId,
          allows: (use) => licenceAllows(row.licence, use),
          profile: new ProfileReader(row.profile ?? nobodyHeard),
        },
        scene,
        weights,
      );
      return [[card.id, markOf(fit)] as const];
    }),
  );
}

const markOf = (fit: FitInParts): FitMark => ({
  score: fit.score,
  low: fit.low,
  high: fit.high,
  words: fitInWords(fit),
  parts: fitParts.map((part) => ({ part, points: fit.parts[part].points, doubt: fit.parts[part].doubt, words: partInWords(part, fit) })),
});

/** What a person weighs how; what they never touched as usual. */
export async function fitWeightsOf(personId: number): Promise<FitWeights> {
  const [row] = await selectRows<{ weights: Partial<FitWeights> }>(fitWeightsSql, [personId]);
  return { ...usualWeights, ...row?.weights };
}

/** Keeps what a person weighs how. @param weights each 0–2 */
export async function keepFitWeights(personId: number, weights: FitWeights): Promise<void> {
  const changed = Object.fromEntries(
    fitParts.filter((part) => weights[part] !== usualWeights[part]).map((part: FitPart) => [part, weights[part]]),
  );
  await sequelize.query(keepFitWeightsSql, { bind: [personId, JSON.stringify(changed)] });
}
