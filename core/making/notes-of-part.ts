import type { LoopSource } from '../arrangement/fit-request';
import { planClip } from '../arrangement/plan';
import { notesOfClip as notesOfPatternClip } from '../arrangement/pattern/plan-notes';
import { programOfInstrument } from '../theory/programs';
import type { Pattern } from '../arrangement/pattern/pattern';
import { ofLoop, patternOf, type Clip, type Project } from '../arrangement/tree';
import { countedBeat } from '../formats/smf/counted-beat';
import { unsaidTempoBpm, type MidiFile, type Note } from '../formats/smf/parse';
import { writeSmf } from '../formats/smf/write';
import { drumChannelIndex } from '../synth/play';
import { fifthsPosition, type Key } from '../theory/key';
import { framesPerBeat, projectRateHz, quartersPerBeat } from '../units/time';

/** Sharps of a key (flats negative), as a Standard MIDI File states them. @example keySignatureOf({ tonic: 9, mode: 'minor' }) // => no sharps, minor */
export function keySignatureOf(key: Key): { readonly sharps: number; readonly minor: boolean } {
  const position = fifthsPosition(key);
  return { sharps: position > 6 ? position - 12 : position, minor: key.mode === 'minor' };
}

/** The notes that a clip plays, in beats of the project from the part's start: at its place, speed and pitch, each repetition anew. */
function notesOfClip(clip: Clip, source: LoopSource, midi: MidiFile, part: Project): Note[] {
  return planClip(clip, source, part).flatMap(({ fitted, startBeat, lengthBeats, offsetBeats, landing }) => {
    const { request } = fitted,
      isCyclic = Number.isFinite(fitted.cycleFrames),
      quarters = request.beats * countedBeat(midi).beatQuarters,
      ownQuarterFrames = framesPerBeat(midi.tempoBpm ?? unsaidTempoBpm, projectRateHz),
      beatFrames = framesPerBeat(part.tempoBpm, projectRateHz),
      // Beats of the project in a quarter of the file.
      scale = isCyclic ? fitted.cycleBeats / quarters : (ownQuarterFrames * request.targetFrames) / request.sourceFrames / beatFrames,
      cycle = isCyclic ? fitted.cycleBeats : Infinity,
      whole = isCyclic ? cycle : request.targetFrames / beatFrames,
      begins = landing && !isCyclic ? landing.beat - landing.frame / beatFrames : startBeat - offsetBeats,
      ends = startBeat + lengthBeats,
      mine = isCyclic ? midi.notes.filter((note) => note.startBeat < quarters - 1e-9) : midi.notes,
      out: Note[] = [];
    for (let origin = begins; origin < ends - 1e-6; origin += cycle) {
      for (const note of mine) {
        const length = note.lengthBeats * scale,
          at = note.startBeat * scale,
          from = origin + (request.reverse ? Math.max(0, whole - at - length) : at);
        if (from < startBeat - 1e-6 || from >= ends - 1e-6) continue;
        const pitch = note.channel === drumChannelIndex ? note.pitch : note.pitch + Math.round(request.shiftSemitones);
        if (pitch >= 0 && pitch <= 127)
          out.push({ ...note, pitch, startBeat: Math.max(0, from), lengthBeats: Math.min(length, ends - from) });
      }
      if (!isCyclic) break;
    }
    return out;
  });
}

/** Notes that a clip plays of a pattern of the project, as a file keeps them. */
const notesOfPattern = (clip: Clip, pattern: Pattern, part: Project): Note[] =>
  notesOfPatternClip(clip, pattern, part).map((note) => ({ ...note, channel: pattern.isDrums ? drumChannelIndex : 0 }));

/** Notes of what a part plays from notes, in beats of the project. @param midiOf the file of a loop; null for what is no notes, which is left out */
export const notesOfPart = (part: Project, sources: readonly LoopSource[], midiOf: (loop: LoopSource) => MidiFile | null): Note[] => {
  const byId = new Map(sources.map((source) => [source.loopId, source]));
  return part.tracks
    .flatMap(({ clips }) =>
      clips.flatMap((clip) => {
        const pattern = patternOf(part, clip);
        if (pattern) return notesOfPattern(clip, pattern, part);
        const source = ofLoop(byId, clip),
          midi = source ? midiOf(source) : null;
        return source && midi ? notesOfClip(clip, source, midi, part) : [];
      }),
    )
    .sort((a, b) => a.startBeat - b.startBeat || a.pitch - b.pitch);
};

/** By which instrument a part's notes are played, where it is one for all of them; null for drums, and for several. */
export function instrumentOfPart(part: Project, sources: readonly LoopSource[]): string | null {
  const byId = new Map(sources.map((source) => [source.loopId, source])),
    played = part.tracks.flatMap(({ clips }) =>
      clips.flatMap((clip) => {
        const pattern = patternOf(part, clip),
          source = ofLoop(byId, clip);
        if (pattern) return pattern.isDrums ? [] : [clip.overrides.instrument ?? pattern.instrument];
        return source?.media === 'midi' && source.family !== 'drums' ? [clip.overrides.instrument ?? source.instrument] : [];
      }),
    ),
    all = new Set(played);
  return all.size === 1 ? played[0] : null;
}

/** A part's notes as a Standard MIDI File that says tempo, meter and key, and by which instrument they are played. */
export function writePartNotes(part: Project, notes: readonly Note[], lengthBeats: number, instrument: string | null = null): Uint8Array {
  const quarters = quartersPerBeat(part.meter),
    program = instrument === null ? null : programOfInstrument(instrument);
  return writeSmf({
    name: part.name.replaceAll(/[^ -~]/g, '?').slice(0, 100),
    tempoBpm: part.tempoBpm * quarters,
    meter: part.meter,
    ...(part.key ? { keySignature: keySignatureOf(part.key) } : {}),
    ...(program === null ? {} : { program }),
    lengthBeats: lengthBeats * quarters,
    notes: notes.map((note) => ({ ...note, startBeat: note.startBeat * quarters, lengthBeats: note.lengthBeats * quarters })),
  });
}
