import { instrumentById, soundOf, type Family } from './instruments';

/** Lowest and highest note that a player has, as MIDI notes. */
export type NoteRange = readonly [lowest: number, highest: number];

/** Written ranges as they sound (handbooks of orchestration, from memory), by instrument. */
const byInstrument: Readonly<Record<string, NoteRange>> = {
  piano: [21, 108],
  'electric-piano': [28, 103],
  organ: [36, 96],
  clavinet: [29, 88],
  harpsichord: [29, 89],
  accordion: [41, 96],
  'acoustic-guitar': [40, 84],
  'electric-guitar': [40, 88],
  banjo: [48, 86],
  harp: [24, 103],
  'electric-bass': [28, 67],
  'upright-bass': [28, 67],
  'synth-bass': [24, 72],
  'sub-bass': [24, 55],
  violin: [55, 100],
  viola: [48, 91],
  cello: [36, 81],
  strings: [28, 96],
  trumpet: [54, 86],
  trombone: [40, 77],
  brass: [34, 86],
  sax: [49, 87],
  flute: [60, 98],
  clarinet: [50, 91],
  oboe: [58, 91],
  marimba: [45, 96],
  vibraphone: [53, 89],
  kalimba: [53, 88],
  bells: [60, 108],
};

const byFamily: Readonly<Partial<Record<Family, NoteRange>>> = {
  bass: [24, 67],
  guitar: [36, 88],
  strings: [28, 100],
  brass: [34, 86],
  wind: [46, 98],
  mallet: [45, 108],
  voice: [41, 84],
};

/** The range of an instrument; that of its family, or of a keyboard, where it has none of its own. @example rangeOf('cello') // => [36, 81] */
export function rangeOf(instrument: string | null): NoteRange {
  const known = instrument ? instrumentById(instrument) : null;
  return (
    byInstrument[instrument ?? ''] ??
    (instrument ? byInstrument[soundOf(instrument)] : undefined) ??
    (known ? byFamily[known.family] : undefined) ?? [21, 108]
  );
}
