import type { FitMark } from '~contracts/fit-mark';
import type { LoopCard } from '~contracts/loop-card';
import { licenceAllows } from '~core/library/licence';
import { ProfileReader, profileLength } from '~core/search/fit/profile';
import type { Scene } from '~core/search/fit/scene';
import { judgeFit, type FitInParts } from '~core/search/fit/score';
import { fitInWords, partInWords } from '~core/search/fit/words';
import { fitParts, usualWeights, type FitPart, type FitWeights } from '~core/search/fit/weights';
import { selectRows, sequelize } from '../db/connection';
import type { RawLoopCard } from './loop-rows';
import { fitWeightsSql, keepFitWeightsSql } from '../db/queries/scene';

const nobodyHeard = new Uint8Array(profileLength);

/** A row with what fit goes by beside its card. */
export type RawFitCard = RawLoopCard & { readonly licence: string; readonly profile: Buffer | null };

/** How well a loop belongs to what sounds, and why. */
export function fitMark(
  card: LoopCard,
  { licence, profile }: Pick<RawFitCard, 'licence' | 'profile'>,
  scene: Scene,
  weights: FitWeights,
): FitMark {
  return markOf(
    judgeFit(
      {
        ...card.source,
        bars: card.bars,
        meter: card.meter,
        setId: card.setId,
        packId: card.packId,
        allows: (use) => licenceAllows(licence, use),
        profile: new ProfileReader(profile ?? nobodyHeard),
      },
      scene,
      weights,
    ),
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
