import type { Note } from '../formats/smf/parse';
import { noteToHz } from '../units/pitch';
import { kit } from './kit';
import { createRandom } from './random';
import type { Voice } from './voice';
import { brass, cello, lead, pad, stringSection, synthPluck } from './voices/ensembles';
import { clavinet, electricPiano, organ, piano } from './voices/keys';
import { bell, flute, kalimba, marimba, voice } from './voices/mallets';
import { fingeredBass, banjo, harp, nylonGuitar, pizzicato, steelGuitar, subBass, synthBass, uprightBass } from './voices/plucked';

/** The voice that plays a note loop of an instrument (ids of `core/theory/instruments`). Unknown ones get the electric piano. */
export const voiceByInstrument: Readonly<Record<string, Voice>> = {
  'sub-bass': subBass,
  'upright-bass': uprightBass,
  'synth-bass': synthBass,
  'electric-bass': fingeredBass,
  'electric-piano': electricPiano,
  organ,
  clavinet,
  harpsichord: steelGuitar,
  accordion: organ,
  piano,
  banjo,
  harp,
  pizzicato,
  'electric-guitar': steelGuitar,
  'acoustic-guitar': nylonGuitar,
  cello,
  violin: cello,
  strings: stringSection,
  trumpet: brass,
  trombone: brass,
  brass,
  sax: lead,
  flute,
  clarinet: flute,
  kalimba,
  marimba,
  bells: bell,
  choir: voice,
  voice,
  'synth-pluck': synthPluck,
  'synth-lead': lead,
  'synth-pad': pad,
};

/** The voice that plays an instrument; the electric piano for one that has none of its own, and where none is named. */
export const voiceOf = (instrument: string | null): Voice => voiceByInstrument[instrument ?? ''] ?? electricPiano;

export const drumChannelIndex = 9;

export interface Performance {
  readonly notes: readonly Note[];
  readonly instrument: string | null;
  /** Length of a quarter note in frames. */
  readonly quarterFrames: number;
  /** Length of the result; what rings on behind it wraps to the start when `cyclic`, else it is cut. */
  readonly totalFrames: number;
  readonly cyclic: boolean;
  readonly shiftSemitones: number;
  readonly rateHz: number;
  readonly tone?: number;
  readonly seed?: number;
  /** What plays it; left out: the plain voice of the instrument. */
  readonly voice?: Voice;
}

/** Plays notes into stereo. Notes of the drum channel are played by the kit and never transposed. Same input, same samples. */
export function playNotes(performance: Performance): [Float32Array, Float32Array] {
  const { notes, quarterFrames, totalFrames, cyclic, rateHz } = performance;
  const out: [Float32Array, Float32Array] = [new Float32Array(totalFrames), new Float32Array(totalFrames)];
  const melodic = performance.voice ?? voiceOf(performance.instrument);
  notes.forEach((note, index) => {
    const random = createRandom((performance.seed ?? 1) * 7919 + index);
    const piece = note.channel === drumChannelIndex ? (kit[note.pitch] ?? kit[76]) : null;
    const hz = piece ? piece.hz : noteToHz(note.pitch + performance.shiftSemitones);
    const sound = (piece?.voice ?? melodic)({
      hz,
      velocity: note.velocity / 127,
      heldSeconds: (note.lengthBeats * quarterFrames) / rateHz,
      rateHz,
      tone: performance.tone ?? 0.5,
      random,
    });
    addPanned(out, sound, Math.round(note.startBeat * quarterFrames), piece?.gain ?? 0.6, piece?.pan ?? (note.pitch - 60) / 160, cyclic);
  });
  return out;
}

/** Adds a mono sound at a frame, panned by equal power; wraps or cuts at the end. */
export function addPanned(
  out: readonly [Float32Array, Float32Array],
  sound: Float32Array,
  startFrame: number,
  gain: number,
  pan: number,
  cyclic: boolean,
): void {
  const angle = ((Math.max(-1, Math.min(1, pan)) + 1) * Math.PI) / 4;
  const left = Math.cos(angle) * Math.SQRT2 * gain,
    right = Math.sin(angle) * Math.SQRT2 * gain,
    total = out[0].length;
  for (let i = 0, at = startFrame; i < sound.length; i++, at++) {
    if (at >= total) {
      if (!cyclic) break;
      at -= total;
    }
    if (at < 0) continue;
    out[0][at] += sound[i] * left;
    out[1][at] += sound[i] * right;
  }
}
