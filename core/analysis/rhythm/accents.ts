import { beatsToSeconds } from '../../units/time';
import type { OnsetBands } from '../onsets/onset-bands';
import type { Reading } from '../tempo/read-rhythm';

export interface Groove {
  /** Mean onset strength at each sixteenth of a bar (eighth of a third in 6/8), in three bands, the strongest of all 1. */
  readonly accents: readonly (readonly number[])[];
  /** Place of the off-eighth or off-sixteenth in its pair, 0.5 straight to 0.67 triplet; null where too few tell. */
  readonly swing: number | null;
  /** Mean distance of onsets from the grid, milliseconds. */
  readonly spreadMs: number | null;
}

/** What a reading and the onsets say together. */
export function measureGroove(
  { bands, hopSeconds }: OnsetBands,
  onsetSeconds: readonly number[],
  reading: Pick<Reading, 'tempoBpm' | 'beats' | 'bars' | 'meter' | 'startSeconds'>,
): Groove {
  const perBeat = reading.meter === '6/8' ? 6 : 4,
    cell = beatsToSeconds(1, reading.tempoBpm) / perBeat,
    cells = Math.round((reading.beats / reading.bars) * perBeat);
  const accents = [bands[0], bands[2], bands[3]].map((band) =>
    Array.from({ length: cells }, (_, place) => {
      let sum = 0,
        count = 0;
      for (let bar = 0; bar < reading.bars; bar++) {
        const centre = Math.round((reading.startSeconds + (bar * cells + place) * cell) / hopSeconds);
        let most = 0;
        for (let k = Math.max(0, centre - 2); k <= centre + 3 && k < band.length; k++) most = Math.max(most, band[k]);
        if (centre < band.length) {
          sum += most;
          count++;
        }
      }
      return count ? sum / count : 0;
    }),
  );
  const top = Math.max(1e-6, ...accents.flat());
  const places = onsetSeconds.map((seconds) => (seconds - reading.startSeconds) / cell);
  const near = places.map((place) => place - Math.round(place)).filter((away) => Math.abs(away) < 0.4);
  return {
    accents: accents.map((band) => band.map((value) => value / top)),
    swing: perBeat === 4 ? swingOf(places) : null,
    spreadMs: near.length >= 4 ? (near.reduce((sum, away) => sum + Math.abs(away), 0) / near.length) * cell * 1000 : null,
  };
}

/** The middle of a pair of eighths or of sixteenths: the pair in which more off-places are played decides. */
function swingOf(places: readonly number[]): number | null {
  const inPair = (size: number): number[] =>
    places.flatMap((place) => {
      const part = place / size - Math.floor(place / size + 1e-6);
      return part > 0.4 && part < 0.75 ? [part] : [];
    });
  const eighths = inPair(4),
    sixteenths = inPair(2);
  const list = sixteenths.length >= 4 ? sixteenths : eighths.length >= 3 ? eighths : null;
  if (!list) return null;
  const sorted = [...list].sort((a, b) => a - b);
  return sorted[Math.floor(sorted.length / 2)];
}
