import { chooseReading, keyShift } from '../../arrangement/fit-request';
import type { LicenceUse } from '../../library/licence';
import type { LoopKind } from '../../analysis/attributes/loop-kinds';
import { isKeyCompared, scoreOf, shiftCost, stretchCost, stretchOctaves, type CoarseLoop } from './coarse';
import { bandCount, type ProfileReader } from './profile';
import type { Scene } from './scene';
import { costs, fitParts, type FitPart, type FitWeights } from './weights';

/** What fit goes by of a loop. */
export interface FitLoop extends CoarseLoop {
  readonly loopId: number;
  readonly kind: LoopKind;
  readonly instrument: string | null;
  readonly bars: number | null;
  readonly beats: number | null;
  readonly meter: string | null;
  readonly barBeats: number;
  readonly setId: number | null;
  readonly packId: number;
  /** What the project needs and its licence forbids (false) or says nothing of (null). */
  readonly allows: (use: LicenceUse) => boolean | null;
  /** What was measured of it; unknown for one that was not heard yet. */
  readonly profile: ProfileReader;
}

/** What a part costs: `points` where it is known; half of `unknownMost` is reckoned where it is not. */
export interface PartCost {
  readonly points: number;
  /** How much more or less it may be. 0 for what is known. */
  readonly doubt: number;
}

/** What each part found on its way, for saying it in words. */
export interface FitFindings {
  stretchOctaves: number;
  /** −22.6: played 22.6 % slower than recorded. */
  speedPercent: number;
  shiftSemitones: number;
  /** Bars of the project in which notes rub, and how hard in the mean, 0–1. */
  rubbingBars: number[];
  rub: number;
  /** Share of its notes that sound already, 0–1; NaN where it is not known. */
  inCommon: number;
  /** −1 against the accents that sound, 1 with them; NaN where it is not known. */
  together: number;
  /** 0–1: how much it is the same again, in rhythm and in register. */
  doubled: number;
  swingApart: number;
  /** Share of its energy in bands where little sounds, 0–1; NaN where it is not known. */
  roomy: number;
  /** The band of most of its energy. */
  mainBand: number;
  isSameSet: boolean;
  soundsAlready: boolean;
  isSamePack: boolean;
  otherMeter: boolean;
  unevenBars: boolean;
  forbidden: LicenceUse | null;
}

const nothing: PartCost = { points: 0, doubt: 0 },
  unknown = (most: number): PartCost => ({ points: most / 2, doubt: most / 2 }),
  sure = (points: number): PartCost => ({ points, doubt: 0 });

type Judge = (loop: FitLoop, scene: Scene, found: FitFindings) => PartCost;

/** Each part by itself; the one place where fit is judged. */
const judges: Readonly<Record<FitPart, Judge>> = {
  stretch: (loop, scene, found) => {
    const points = stretchCost(loop, scene);
    if (loop.tempoBpm === null) return { points, doubt: loop.kind === 'one-shot' ? 0 : points };
    found.stretchOctaves = stretchOctaves(loop.tempoBpm, scene.tempoBpm);
    found.speedPercent = (scene.tempoBpm / (loop.tempoBpm * chooseReading(loop.tempoBpm, scene.tempoBpm)) - 1) * 100;
    return sure(points);
  },
  shift: (loop, scene, found) => {
    const points = shiftCost(loop, scene);
    if (!isKeyCompared(loop, scene)) return nothing;
    if (loop.key === null) return { points, doubt: points };
    const shift = (found.shiftSemitones = keyShift(loop, scene.key)),
      holds = loop.family === 'voice' || (loop.family === 'bass' && shift < 0) ? 0 : 4;
    return sure(points + Math.max(0, Math.abs(shift) - holds) * costs.register);
  },
  harmony: ({ profile, pitched, family }, { harmony }, found) => {
    if (!harmony) return nothing;
    // Nothing of it can rub, and nothing of it agrees.
    if (pitched === false || family === 'drums') return sure(costs.noHarmony);
    if (!profile.isKnown || profile.bars === 0) return pitched === true ? unknown(costs.unknownMost.harmony) : nothing;
    return againstHarmony(profile, harmony, found.shiftSemitones, found);
  },
  rhythm: ({ profile, barBeats }, scene, found) => {
    if (!scene.accents) return nothing;
    if (Math.abs(barBeats - scene.barBeats) > 0.01) return nothing;
    if (!profile.isKnown || profile.cells !== scene.accents.length) return unknown(costs.unknownMost.rhythm);
    return againstRhythm(profile, scene.accents, scene, found);
  },
  room: ({ profile, kind }, { bands }, found) => {
    if (!bands || kind === 'full-mix') return nothing;
    if (!profile.isKnown || !profile.hasBands) return unknown(costs.unknownMost.room);
    let shared = 0,
      total = 0,
      roomy = 0;
    for (let band = 0; band < bandCount; band++) {
      const own = profile.band(band);
      total += own;
      shared += Math.min(own, bands[band]);
      if (bands[band] < 0.05) roomy += own;
      if (own > profile.band(found.mainBand)) found.mainBand = band;
    }
    if (total <= 0) return nothing;
    found.roomy = roomy / total;
    return sure((costs.masked * shared) / total);
  },
  bars: ({ bars, beats, kind, tempoBpm }, { sectionBars, barBeats, tempoBpm: projectBpm }, found) => {
    if (sectionBars === null || (kind !== 'loop' && kind !== 'full-mix')) return nothing;
    if (bars === null || beats === null || tempoBpm === null) return unknown(costs.unknownMost.bars);
    const octaves = Math.log2(tempoBpm / projectBpm),
      // Read at half or double its tempo it lasts twice or half as many of the project's beats.
      reading = octaves > 0.5 ? 0.5 : octaves < -0.5 ? 2 : 1,
      times = sectionBars / ((beats * reading) / barBeats);
    found.unevenBars = Math.abs(times - Math.round(times)) > 0.01 || times < 0.99;
    return found.unevenBars ? sure(costs.unevenBars) : nothing;
  },
  meter: ({ meter, kind, barBeats }, scene, found) => {
    if (kind !== 'loop' && kind !== 'full-mix') return nothing;
    if (meter === null || meter === 'unknown') return meter === null ? unknown(costs.unknownMost.meter) : sure(costs.otherMeter * 0.75);
    found.otherMeter = Math.abs(barBeats - scene.barBeats) > 0.01;
    return found.otherMeter ? sure(costs.otherMeter) : nothing;
  },
  kin: ({ loopId, setId, packId }, { loopIds, setIds, packIds }, found) => {
    if (packIds.size === 0) return nothing;
    found.soundsAlready = loopIds.has(loopId);
    found.isSameSet = setId !== null && setIds.has(setId);
    found.isSamePack = packIds.has(packId);
    return sure(
      (found.isSameSet ? 0 : costs.otherSet) + (found.isSamePack ? 0 : costs.otherPack) + (found.soundsAlready ? costs.soundsAlready : 0),
    );
  },
  licence: ({ allows }, { needs }, found) => {
    let points = 0;
    for (const use of needs) {
      const allowed = allows(use);
      if (allowed === false) {
        found.forbidden ??= use;
        points += costs.licenceForbids;
      } else if (allowed === null) points += costs.licenceUnknown;
    }
    return sure(points);
  },
};

/** Its notes, moved, against those of the project's bars: what rubs a semitone away from what sounds, and what they have in common. */
function againstHarmony(profile: ProfileReader, harmony: readonly Float32Array[], shiftSemitones: number, found: FitFindings): PartCost {
  const shift = ((Math.round(shiftSemitones) % 12) + 12) % 12;
  let rubs = 0,
    common = 0,
    compared = 0;
  for (let bar = 0; bar < harmony.length; bar++) {
    const there = harmony[bar],
      own = bar % profile.bars;
    let total = 0,
      rub = 0,
      square = 0,
      shared = 0,
      thereSquare = 0;
    for (let pitch = 0; pitch < 12; pitch++) {
      const strength = profile.pitch(own, pitch),
        place = (pitch + shift) % 12,
        beside = Math.max(there[(place + 1) % 12], there[(place + 11) % 12]);
      thereSquare += there[pitch] ** 2;
      if (strength === 0) continue;
      total += strength;
      square += strength ** 2;
      rub += strength * Math.max(0, beside - there[place]);
      shared += strength * there[place];
    }
    if (total === 0 || thereSquare === 0) continue;
    compared++;
    rubs += rub / total;
    common += shared / Math.sqrt(square * thereSquare);
    if (rub / total > 0.3) found.rubbingBars.push(bar);
  }
  if (compared === 0) return nothing;
  found.rub = rubs / compared;
  found.inCommon = common / compared;
  return sure(costs.rub * found.rub + costs.nothingInCommon * (1 - found.inCommon));
}

function againstRhythm(profile: ProfileReader, accents: Float32Array, scene: Scene, found: FitFindings): PartCost {
  const cells = accents.length;
  let own = 0,
    there = 0;
  for (let cell = 0; cell < cells; cell++) {
    own += profile.accent(cell) / cells;
    there += accents[cell] / cells;
  }
  let product = 0,
    ownSquare = 0,
    thereSquare = 0,
    less = 0,
    more = 0;
  for (let cell = 0; cell < cells; cell++) {
    const a = profile.accent(cell),
      b = accents[cell];
    product += (a - own) * (b - there);
    ownSquare += (a - own) ** 2;
    thereSquare += (b - there) ** 2;
    less += Math.min(a, b);
    more += Math.max(a, b);
  }
  found.together = ownSquare > 0 && thereSquare > 0 ? product / Math.sqrt(ownSquare * thereSquare) : 0;
  let register = 0;
  if (scene.bands && profile.hasBands)
    for (let band = 0; band < bandCount; band++) register += Math.min(profile.band(band), scene.bands[band]);
  const alike = more > 0 ? less / more : 0;
  found.doubled = Math.max(0, (alike - 0.6) / 0.4) * register;
  found.swingApart = profile.swing !== null && scene.swing !== null ? Math.abs(profile.swing - scene.swing) : 0;
  return sure(
    costs.against * Math.max(0, -found.together) +
      costs.doubled * found.doubled +
      costs.swing * Math.min(1, Math.max(0, found.swingApart - 0.03) * 10),
  );
}

export interface Fit {
  /** 0–100: how well it belongs, what is unknown reckoned in the middle. */
  readonly score: number;
  /** Where the score may lie, for what is unknown; both the score itself where nothing is. */
  readonly low: number;
  readonly high: number;
}
export interface FitInParts extends Fit {
  readonly parts: Readonly<Record<FitPart, PartCost>>;
  readonly found: FitFindings;
}

/** What is found when nothing was looked at. */
export const noFindings = (): FitFindings => ({
  stretchOctaves: 0,
  speedPercent: 0,
  shiftSemitones: 0,
  rubbingBars: [],
  rub: 0,
  inCommon: NaN,
  together: NaN,
  doubled: 0,
  swingApart: 0,
  roomy: NaN,
  mainBand: 0,
  isSameSet: false,
  soundsAlready: false,
  isSamePack: false,
  otherMeter: false,
  unevenBars: false,
  forbidden: null,
});

/** How well a loop belongs to what sounds: each part by its weight, and where the score may lie for what is not known. */
export function judgeFit(loop: FitLoop, scene: Scene, weights: FitWeights): FitInParts {
  const found = noFindings(),
    parts = {} as Record<FitPart, PartCost>;
  let points = 0,
    doubt = 0;
  for (const part of fitParts) {
    const cost = (parts[part] = judges[part](loop, scene, found));
    points += weights[part] * cost.points;
    doubt += weights[part] * cost.doubt;
  }
  return { score: scoreOf(points), low: scoreOf(points + doubt), high: scoreOf(Math.max(0, points - doubt)), parts, found };
}

/** The score by itself, for who orders a million: the same judges, and nothing kept of how it came about. */
export function fitScore(loop: FitLoop, scene: Scene, weights: FitWeights, found: FitFindings): number {
  let points = 0;
  found.shiftSemitones = 0;
  found.rubbingBars.length = 0;
  found.forbidden = null;
  found.mainBand = 0;
  for (const part of fitParts) if (weights[part] > 0 || part === 'shift') points += weights[part] * judges[part](loop, scene, found).points;
  return scoreOf(points);
}
