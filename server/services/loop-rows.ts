import { beatMapHolds } from '~core/analysis/rhythm/beat-map';
import type { BarNotes, Triad } from '~core/analysis/chords/bars';
import type { HeardNote } from '~core/analysis/melody/melody';
import { heardChords, statedChords, type LoopHarmony } from '~core/arrangement/harmony/loop-harmony';
import type { ChordMark } from '~core/arrangement/tree';
import type { LoopCard } from '~contracts/loop-card';
import type { WholeLoop } from '~contracts/whole-loop';
import type { LoopOutline, LoopSource } from '~core/arrangement/fit-request';
import type { FitDefaults } from '~core/arrangement/fit-settings';
import type { LoopKind } from '~core/analysis/attributes/loop-kinds';
import type { Family } from '~core/theory/instruments';
import type { Mode } from '~core/theory/key';
import { loopBarBeats, projectRateHz } from '~core/units/time';

/** A row as the database gives it. */
export interface RawLoopRow {
  id: number;
  title: string;
  fileName: string;
  kind: LoopKind;
  media: 'audio' | 'midi';
  instrument: string | null;
  family: Family | null;
  tempoBpm: number | null;
  tempoConfidence: number | null;
  keyTonic: number | null;
  keyMode: Mode | null;
  keyConfidence: number | null;
  pitched: boolean | null;
  bars: number | null;
  beats: number | null;
  meter: string | null;
  lengthSeconds: number;
  firstBarSeconds: number;
  landingSeconds: number | null;
  isFill: boolean;
  loudnessLufs: number | null;
  peakDbfs: number | null;
  soundSha: string;
  soundFrames: number;
  onsetFrames: number[];
  faintFrames: number[];
  beatFrames: number[];
  /** What was heard of its notes; null for what has none. */
  heard?: {
    readonly bars: readonly BarNotes[];
    readonly beatChords: readonly (Triad | null)[];
    readonly melody: readonly HeardNote[] | null;
    readonly stated: readonly ChordMark[] | null;
  } | null;
  fitDefaults: FitDefaults;
  overview: string;
  packId: number;
  packName: string;
  vendor: string;
  setId: number | null;
  setStem: string | null;
  addedAt: Date | string;
  addedBy: string;
  favourite: boolean;
  stars?: number | null;
  note?: string;
}

/** What lists need of a row. */
export type RawLoopCard = Omit<RawLoopRow, 'onsetFrames' | 'faintFrames' | 'beatFrames' | 'heard'>;

export const toLoopRow = (raw: RawLoopRow): WholeLoop => ({ ...toLoopCard(raw), source: toSource(raw) });

export function toLoopCard(raw: RawLoopCard): LoopCard {
  return {
    id: raw.id,
    title: raw.title,
    fileName: raw.fileName,
    source: toOutline(raw),
    bars: raw.bars,
    meter: raw.meter,
    tempoConfidence: raw.tempoConfidence,
    keyConfidence: raw.keyConfidence,
    lengthSeconds: raw.lengthSeconds,
    peakDbfs: raw.peakDbfs,
    overview: raw.overview.replaceAll('\n', ''),
    packId: raw.packId,
    packName: raw.packName,
    vendor: raw.vendor,
    setId: raw.setId,
    setStem: raw.setStem,
    addedAt: new Date(raw.addedAt).toISOString(),
    addedBy: raw.addedBy,
    favourite: raw.favourite,
    stars: raw.stars ?? null,
    note: raw.note ?? '',
  };
}

const toSource = (raw: RawLoopRow): LoopSource => ({
  ...toOutline(raw),
  onsetFrames: raw.onsetFrames,
  faintFrames: raw.faintFrames,
  ...(beatMapHolds(
    raw.beatFrames.map((frame) => frame / projectRateHz),
    raw,
  )
    ? { beatFrames: raw.beatFrames }
    : {}),
  ...(raw.heard ? { harmony: harmonyOf(raw, raw.heard) } : {}),
});

/** To three places, and a little: enough for what is done with it, and a third of the size. */
const short = (value: number): number => Math.round(value * 1000) / 1000;

/** What is known of a loop's notes: its chords as somebody stated them, else as they were heard. */
function harmonyOf(raw: RawLoopRow, { bars, beatChords, melody, stated }: NonNullable<RawLoopRow['heard']>): LoopHarmony {
  return {
    chords: stated ? statedChords(stated) : heardChords(bars, beatChords, loopBarBeats(raw), raw.family),
    isStated: stated !== null,
    bars: bars.map(({ pitchClasses }) => pitchClasses.map(short)),
    line: melody,
  };
}

function toOutline(raw: RawLoopCard): LoopOutline {
  return {
    loopId: raw.id,
    kind: raw.kind,
    media: raw.media,
    soundSha: raw.soundSha,
    // Notes have no sound of their own: they last as long as at their own tempo.
    soundFrames: raw.media === 'midi' ? Math.round(raw.lengthSeconds * projectRateHz) : raw.soundFrames,
    tempoBpm: raw.tempoBpm,
    beats: raw.beats,
    key: raw.keyTonic === null || raw.keyMode === null ? null : { tonic: raw.keyTonic, mode: raw.keyMode },
    pitched: raw.pitched,
    family: raw.family,
    instrument: raw.instrument,
    loudnessLufs: raw.loudnessLufs,
    startFrame: Math.round(raw.firstBarSeconds * projectRateHz),
    ...(raw.landingSeconds === null ? {} : { landingFrame: Math.round(raw.landingSeconds * projectRateHz) }),
    ...(raw.isFill ? { isFill: true } : {}),
    barBeats: loopBarBeats(raw),
    ...(Object.keys(raw.fitDefaults).length > 0 ? { fitDefaults: raw.fitDefaults } : {}),
  };
}
