import { powerToDb } from '../../units/level';
import type { Heard } from '../listen/hear';
import { bandCentreHz, melBands } from '../listen/mel';

const groupCount = 10;

/** Share of the energy in ten bands from low to high. */
export function bandShares({ mel }: Pick<Heard, 'mel'>): number[] {
  const sums = new Array<number>(groupCount).fill(0);
  for (let i = 0; i < mel.power.length; i++) sums[Math.floor(((i % melBands) * groupCount) / melBands)] += mel.power[i];
  const total = sums.reduce((a, b) => a + b, 1e-12);
  return sums.map((value) => value / total);
}

export interface Colour {
  /** From the loudest moment to a sixteenth of its energy. */
  readonly fallSeconds: number;
  /** Median centre of the spectrum. */
  readonly centreHz: number;
  /** Geometric over arithmetic mean of the bands, median. */
  readonly flatness: number;
  readonly crestDb: number;
}

/** Measures of colour for the words of character. */
export function colourOf({ mel }: Pick<Heard, 'mel'>): Colour {
  const energy = new Float32Array(mel.frameCount);
  let loudest = 0,
    at = 0,
    sum = 0;
  for (let frame = 0; frame < mel.frameCount; frame++) {
    for (let band = 0; band < melBands; band++) energy[frame] += mel.power[frame * melBands + band];
    sum += energy[frame] / mel.frameCount;
    if (energy[frame] > loudest) [loudest, at] = [energy[frame], frame];
  }
  let fall = at;
  while (fall < mel.frameCount && energy[fall] > loudest / 16) fall++;
  const centres: number[] = [],
    flatness: number[] = [];
  for (let frame = 0; frame < mel.frameCount; frame += 4) {
    if (energy[frame] < loudest * 0.02) continue;
    let centre = 0,
      logs = 0;
    for (let band = 0; band < melBands; band++) {
      const power = mel.power[frame * melBands + band];
      centre += (power / energy[frame]) * bandCentreHz(band);
      logs += Math.log(power + energy[frame] * 1e-6) / melBands;
    }
    centres.push(centre);
    flatness.push(Math.exp(logs) / (energy[frame] / melBands));
  }
  const median = (list: number[]) => list.sort((a, b) => a - b)[Math.floor(list.length / 2)] ?? 0;
  return {
    fallSeconds: (fall - at) * mel.hopSeconds,
    centreHz: median(centres),
    flatness: median(flatness),
    crestDb: sum > 0 ? powerToDb(loudest / sum) + 3 : 0,
  };
}
