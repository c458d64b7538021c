import { stretchApart, stretchMixed } from './mixed';
import { placeHits } from './places';
import { stretchSlices, type Hits } from './slicer';
import type { TimeMap } from './time-map';
import { stretchTonal } from './vocoder';
import { stretchVoice } from './voice';

/** How a loop is stretched; `plain` is a tape: speed and pitch together. */
export type StretchMode = 'percussive' | 'tonal' | 'mixed' | 'apart' | 'voice' | 'plain';

export interface StretchTask {
  readonly cycle: readonly Float32Array[];
  /** Hits in frames of the cycle, ascending; may be empty. */
  readonly onsetFrames: readonly number[];
  readonly map: TimeMap;
  /** Beats of the cycle, 0 when they are not known. */
  readonly beats: number;
  /** What resampling will do to the pitch afterwards, and where the formants shall be. */
  readonly pitchRatio: number;
  readonly formantRatio: number;
  readonly sampleRateHz: number;
}

export interface StretchModeRow {
  readonly mode: StretchMode;
  readonly name: string;
  /** For whom it is, in a few words. */
  readonly purpose: string;
  /** By so much a fit may peak over what went in, dB: hits are copied, held partials part from each other and meet again elsewhere. */
  readonly mostPeakGrowthDb: number;
  readonly stretch: (task: StretchTask) => readonly Float32Array[];
}

/** What is cut at hits needs hits; without any it is stretched as tones. */
const byHits =
  (stretch: (cycle: readonly Float32Array[], hits: Hits, map: TimeMap) => Float32Array[]) =>
  ({ cycle, onsetFrames, map, beats, sampleRateHz }: StretchTask): Float32Array[] =>
    onsetFrames.length > 0
      ? stretch(cycle, { frames: onsetFrames, places: placeHits(onsetFrames, map, beats, sampleRateHz) }, map)
      : stretchTonal(cycle, map);

const hitsGrowthDb = 3,
  heldGrowthDb = 6;

/** All stretch modes, in the order they are offered. */
export const stretchModeRows: readonly StretchModeRow[] = [
  {
    mode: 'percussive',
    name: 'hits',
    purpose: 'drums and percussion: every attack stays as it is',
    mostPeakGrowthDb: hitsGrowthDb,
    stretch: byHits(stretchSlices),
  },
  {
    mode: 'tonal',
    name: 'tones',
    purpose: 'chords, pads, lines: smooth, soft at attacks',
    mostPeakGrowthDb: heldGrowthDb,
    stretch: ({ cycle, map }) => stretchTonal(cycle, map),
  },
  {
    mode: 'mixed',
    name: 'hits and tones',
    purpose: 'drums with bass or chords: attacks first',
    mostPeakGrowthDb: heldGrowthDb,
    stretch: byHits(stretchMixed),
  },
  {
    mode: 'apart',
    name: 'hits over held tones',
    purpose: 'drums over a pad: the tones are taken out and kept steady',
    mostPeakGrowthDb: heldGrowthDb,
    stretch: byHits(stretchApart),
  },
  {
    mode: 'voice',
    name: 'voice',
    purpose: 'singing and speech: the pitch moves, the character stays',
    mostPeakGrowthDb: heldGrowthDb,
    stretch: ({ cycle, map, pitchRatio, formantRatio, sampleRateHz }) => stretchVoice(cycle, map, pitchRatio, formantRatio, sampleRateHz),
  },
  {
    mode: 'plain',
    name: 'tape',
    purpose: 'speed and pitch together, as a tape does',
    mostPeakGrowthDb: hitsGrowthDb,
    stretch: ({ cycle }) => cycle,
  },
];

/** What there is to know of a stretch mode. @throws {RangeError} for a name that is none */
export function stretchModeRow(mode: StretchMode): StretchModeRow {
  const row = stretchModeRows.find((each) => each.mode === mode);
  if (!row) throw new RangeError(`no stretch mode ${mode}`);
  return row;
}
