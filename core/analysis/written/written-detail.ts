import { beatsToSeconds } from '../../units/time';
import type { MidiFile, Note } from '../../formats/smf/parse';
import { pitchClass } from '../../units/pitch';
import type { Detail } from '../analysis';
import { mostBars, mostBeats, triadChances, type BarNotes } from '../chords/bars';
import type { HeardNote } from '../melody/melody';
import type { OnsetBands } from '../onsets/onset-bands';
import { measureGroove } from '../rhythm/accents';
import type { Reading } from '../tempo/read-rhythm';

/** General MIDI's drum channel, counted from 0. */
export const drumChannel = 9;

/** A player's legato: notes that overlap by less than this share of a quarter are one voice still. */
const legatoBeats = 0.08,
  /** Notes of a chord lie no farther apart. */
  togetherSeconds = 0.03,
  hopSeconds = 256 / 44100;

/** What charts draw of a note loop: exact, from the notes, where a sound has to be listened to. */
export function writtenDetail(midi: MidiFile, reading: Reading, quartersPerBeat: number): Detail {
  const quarterSeconds = beatsToSeconds(1, reading.tempoBpm) / quartersPerBeat,
    tuned = midi.notes.filter(({ channel }) => channel !== drumChannel),
    groove = measureGroove(
      writtenOnsets(midi.notes, quarterSeconds),
      midi.notes.map(({ startBeat }) => startBeat * quarterSeconds),
      reading,
    );
  return {
    readings: [],
    pulse: [],
    groove,
    bars: tuned.length ? writtenBars(tuned, (reading.beats / reading.bars) * quartersPerBeat, Math.min(mostBars, reading.bars)) : [],
    beatChords: tuned.length ? writtenBars(tuned, quartersPerBeat, Math.min(mostBeats, reading.beats)).map(({ chord }) => chord) : [],
    hits: writtenHits(midi.notes, quarterSeconds),
    density: writtenHits(midi.notes, quarterSeconds).length / reading.beats,
    brightnessHz: null,
    families: [],
    levels: null,
    character: [],
    bands: [],
    tuningAgreement: 1,
    heardSeconds: null,
    melody: writtenMelody(tuned, quarterSeconds),
    beatMap: null,
    seamDb: null,
    heardFamilies: [],
  };
}

/** Notes that begin together are one hit, as hard as the hardest of them. */
function writtenHits(notes: readonly Note[], quarterSeconds: number): [number, number][] {
  const found: [seconds: number, strength: number][] = [];
  for (const { startBeat, velocity } of [...notes].sort((a, b) => a.startBeat - b.startBeat)) {
    const seconds = startBeat * quarterSeconds,
      last = found.at(-1);
    if (last && seconds - last[0] < togetherSeconds) last[1] = Math.max(last[1], velocity / 127);
    else found.push([seconds, velocity / 127]);
  }
  return found;
}

/** Velocities as onset strengths: low, low-mid, mid and high notes or drums, then all together. */
function writtenOnsets(notes: readonly Note[], quarterSeconds: number): OnsetBands {
  const last = Math.max(0, ...notes.map(({ startBeat }) => startBeat)),
    frameCount = Math.ceil((last * quarterSeconds) / hopSeconds) + 4,
    bands = Array.from({ length: 5 }, () => new Float32Array(frameCount));
  for (const { startBeat, pitch, velocity, channel } of notes) {
    const frame = Math.round((startBeat * quarterSeconds) / hopSeconds);
    for (const band of [channel === drumChannel ? drumBand(pitch) : toneBand(pitch), 4])
      bands[band][frame] = Math.max(bands[band][frame], velocity / 127);
  }
  return { hopSeconds, frameCount, bands };
}

const drumBand = (key: number): number => ([35, 36, 41, 43].includes(key) ? 0 : key < 42 || [45, 47, 48, 50].includes(key) ? 2 : 3);
const toneBand = (pitch: number): number => (pitch < 48 ? 0 : pitch < 72 ? 2 : 3);

/** Notes, bass and triad of each bar by what is written: a note weighs as long and as hard as it is held in the bar. */
function writtenBars(notes: readonly Note[], barQuarters: number, bars: number): BarNotes[] {
  return Array.from({ length: bars }, (_, bar) => {
    const from = bar * barQuarters,
      classes = new Float32Array(12),
      held = new Map<number, number>();
    for (const { startBeat, lengthBeats, pitch, velocity } of notes) {
      const inside = Math.min(from + barQuarters, startBeat + lengthBeats) - Math.max(from, startBeat);
      if (inside <= 0.01) continue;
      classes[pitchClass(pitch)] += inside * velocity;
      held.set(pitch, (held.get(pitch) ?? 0) + inside);
    }
    const strongest = Math.max(...classes);
    if (strongest <= 0) return { pitchClasses: new Array<number>(12).fill(0), notes: [], bass: null, chord: null };
    const chances = triadChances(classes),
      best = chances.indexOf(Math.max(...chances));
    return {
      pitchClasses: [...classes].map((value) => value / strongest),
      notes: [...held.keys()].sort((a, b) => a - b),
      bass: Math.min(...held.keys()),
      chord: { root: best % 12, minor: best >= 12, probability: chances[best] },
    };
  });
}

/** The notes themselves, when one sounds at a time. */
function writtenMelody(notes: readonly Note[], quarterSeconds: number): HeardNote[] | null {
  const sorted = [...notes].sort((a, b) => a.startBeat - b.startBeat);
  if (sorted.length < 2) return null;
  if (sorted.some((note, k) => k > 0 && sorted[k - 1].startBeat + sorted[k - 1].lengthBeats > note.startBeat + legatoBeats)) return null;
  const hardest = Math.max(...sorted.map(({ velocity }) => velocity));
  return sorted.map(({ startBeat, lengthBeats, pitch, velocity }) => ({
    startSeconds: startBeat * quarterSeconds,
    lengthSeconds: lengthBeats * quarterSeconds,
    pitch,
    cents: 0,
    strength: velocity / hardest,
  }));
}
