import type { HeardNote } from '../../analysis/melody/melody';
import type { MidiFile } from '../../formats/smf/parse';
import { drumChannelIndex } from '../../synth/play';
import { secondsToBeats } from '../../units/time';
import type { LoopSource } from '../fit-request';
import { inPlayingOrder, type Pattern, type PatternNote } from './pattern';

/** Names for what is made; the caller's, so that this stays pure. */
type NewId = () => string;

/** A pattern with nothing in it. */
export const emptyPattern = (said: Pick<Pattern, 'id' | 'name' | 'lengthBeats'> & Partial<Omit<Pattern, 'kind'>>): Pattern => ({
  kind: 'pattern',
  notes: [],
  isDrums: false,
  instrument: null,
  key: null,
  chords: [],
  fromLoopId: null,
  ...said,
});

/**
 * The notes of a library's MIDI loop as patterns of the project: one, or two where a file has drums and tones.
 * @param beatQuarters quarters of the file in a beat of the loop
 * @param beatScale beats of the project in a beat of the loop: ½ for what is read as half as long
 */
export function patternsOfMidi(
  midi: Pick<MidiFile, 'notes'>,
  loop: Pick<LoopSource, 'loopId' | 'instrument' | 'key'> & { readonly lengthBeats: number },
  name: string,
  beatQuarters: number,
  beatScale: number,
  newId: NewId,
): Pattern[] {
  const made = (isDrums: boolean): Pattern[] => {
    const notes = midi.notes
      .filter(({ channel, startBeat }) => (channel === drumChannelIndex) === isDrums && startBeat / beatQuarters < loop.lengthBeats - 1e-6)
      .map(({ startBeat, lengthBeats, pitch, velocity }): PatternNote => ({
        id: newId(),
        startBeat: (startBeat / beatQuarters) * beatScale,
        lengthBeats: Math.max(1 / 64, (lengthBeats / beatQuarters) * beatScale),
        pitch,
        velocity: Math.max(1, Math.min(127, Math.round(velocity))),
      }));
    if (notes.length === 0) return [];
    return [
      emptyPattern({
        id: newId(),
        name: name.slice(0, 120),
        lengthBeats: loop.lengthBeats * beatScale,
        notes: inPlayingOrder(notes),
        isDrums,
        instrument: isDrums ? null : loop.instrument,
        key: isDrums ? null : loop.key,
        fromLoopId: loop.loopId,
      }),
    ];
  };
  return [...made(false), ...made(true)];
}

/**
 * A line that was heard in a sound as notes, with how sure each is: what is short, soft or between two semitones is doubted.
 * @param startSeconds where its first bar begins
 */
export function notesOfLine(
  line: readonly HeardNote[],
  { startSeconds, tempoBpm, lengthBeats }: { readonly startSeconds: number; readonly tempoBpm: number; readonly lengthBeats: number },
  newId: NewId,
): (PatternNote & { readonly confidence: number })[] {
  return line.flatMap((note) => {
    const startBeat = secondsToBeats(note.startSeconds - startSeconds, tempoBpm),
      length = secondsToBeats(note.lengthSeconds, tempoBpm);
    if (startBeat < -0.1 || startBeat >= lengthBeats - 1e-6) return [];
    return [
      {
        id: newId(),
        startBeat: Math.max(0, startBeat),
        lengthBeats: Math.max(1 / 16, Math.min(length, lengthBeats - startBeat)),
        pitch: note.pitch,
        velocity: Math.max(20, Math.min(127, Math.round(40 + 87 * note.strength))),
        confidence: confidenceOf(note),
      },
    ];
  });
}

/** How sure a heard note is, 0–1. */
export const confidenceOf = ({ cents, lengthSeconds, strength }: Pick<HeardNote, 'cents' | 'lengthSeconds' | 'strength'>): number =>
  Math.min(1, 0.35 + lengthSeconds * 2) * Math.min(1, 0.4 + strength * 1.5) * (1 - Math.max(0, Math.abs(cents) - 20) / 60);
