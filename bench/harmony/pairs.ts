import { chordsOf, progressions as demoProgressions, type ChordSpan, type Scale } from '../../demo/compose/harmony';
import { playArp, playBass, playChords, playPad } from '../../demo/compose/players';
import { analyseAudio } from '../../core/analysis/analyse-audio';
import type { BarNotes } from '../../core/analysis/chords/bars';
import { progressionOver } from '../../core/arrangement/acts/chords';
import { keyShift, type LoopSource } from '../../core/arrangement/fit-request';
import { heardChords, type LoopChord } from '../../core/arrangement/harmony/loop-harmony';
import { emptyProject, newClip, newTrack, type Project } from '../../core/arrangement/tree';
import { noTags } from '../../core/formats/tags/embedded';
import type { Note } from '../../core/formats/smf/parse';
import { createRandom } from '../../core/synth/random';
import { playNotes } from '../../core/synth/play';
import { chordPitchClasses } from '../../core/theory/chord';
import type { Key } from '../../core/theory/key';
import { chordsOfProgression, progressions } from '../../core/theory/progressions';
import { pitchClass } from '../../core/units/pitch';
import { framesPerBeat, projectRateHz } from '../../core/units/time';
import { chordPlanOf } from '../../core/arrangement/plan';

/** A loop that was composed over chords, and a project with others. */
export interface Pair {
  readonly family: 'bass' | 'keys';
  readonly instrument: string;
  readonly notes: readonly Note[];
  readonly spans: readonly ChordSpan[];
  readonly source: LoopSource;
  readonly number: number;
  readonly project: Project;
}

const players = [
  { family: 'bass', instrument: 'electric-bass', play: playBass('line') },
  { family: 'bass', instrument: 'upright-bass', play: playBass('long') },
  { family: 'bass', instrument: 'synth-bass', play: playBass('line') },
  { family: 'keys', instrument: 'electric-piano', play: playChords({ centre: 60, hold: 0.9, withRoot: true }) },
  { family: 'keys', instrument: 'piano', play: playChords({ centre: 58, hold: 0.8, withRoot: true }) },
  { family: 'keys', instrument: 'organ', play: playPad(60) },
  { family: 'keys', instrument: 'electric-piano', play: playArp(62, 2) },
] as const;

const beats = 16,
  barBeats = 4;

const statedOf = (spans: readonly ChordSpan[]): LoopChord[] =>
  spans.map(({ root, intervals, startBeat }) => ({
    startBeat,
    root,
    bass: root,
    third: intervals.includes(3) ? 'minor' : 'major',
    probability: 1,
  }));

/** A pair by its number; the same number gives the same pair. */
export function pairOf(number: number): Pair {
  const random = createRandom(number * 977 + 11),
    pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)],
    player = players[number % players.length],
    scale = pick(Object.keys(demoProgressions) as Scale[]),
    key: Key = { tonic: Math.floor(random() * 12), mode: scale === 'major' ? 'major' : 'minor' },
    tempoBpm = 84 + Math.floor(random() * 56),
    spans = chordsOf(key, scale, Math.floor(random() * 6), 4, barBeats),
    notes = player.play({
      chords: spans,
      tonic: key.tonic,
      scale,
      bars: 4,
      barBeats,
      swing: 0,
      random,
      pattern: Math.floor(random() * 6),
    }),
    quarterFrames = framesPerBeat(tempoBpm, projectRateHz),
    projectKey: Key = { tonic: Math.floor(random() * 12), mode: pick(['major', 'minor'] as const) },
    symbols = chordsOfProgression(pick(progressions.filter(({ mode }) => mode === projectKey.mode)), projectKey),
    source: LoopSource = {
      loopId: 1,
      kind: 'loop',
      media: 'audio',
      soundSha: `pair ${number}`,
      soundFrames: Math.round(beats * quarterFrames),
      tempoBpm,
      beats,
      key,
      pitched: true,
      family: player.family,
      instrument: player.instrument,
      loudnessLufs: null,
      startFrame: 0,
      onsetFrames: notes.map(({ startBeat }) => Math.max(0, Math.round(startBeat * quarterFrames))),
      barBeats,
      harmony: { chords: statedOf(spans), isStated: true, bars: [], line: null },
    },
    lengthBeats = Math.max(beats, symbols.length * barBeats),
    project: Project = {
      ...emptyProject(`Pair ${number}`, tempoBpm, projectKey),
      chords: progressionOver(symbols, lengthBeats, barBeats),
      tracks: [newTrack({ id: 't', name: 'T', clips: [newClip({ id: 'c', loopId: 1, startBeat: 0, lengthBeats, chordWay: 'roots' })] })],
    };
  return { number, family: player.family, instrument: player.instrument, notes, spans, source, project };
}

/** What the loop sounds like. */
export const soundOf = ({ number, notes, instrument, source }: Pair): [Float32Array, Float32Array] =>
  playNotes({
    notes,
    instrument,
    quarterFrames: framesPerBeat(source.tempoBpm ?? 120, projectRateHz),
    totalFrames: source.soundFrames,
    cyclic: true,
    shiftSemitones: 0,
    rateHz: projectRateHz,
    seed: number,
  });

/** The same loop, its chords as they are heard in its sound. Tempo and length are told: they are not what is tried here. */
export function heardSource(pair: Pair): LoopSource {
  const { source } = pair,
    { measures } = analyseAudio({ channels: soundOf(pair), sampleRateHz: projectRateHz }, `Loop ${source.tempoBpm}bpm 4bars.wav`, noTags),
    bars: readonly BarNotes[] = measures.detail?.bars ?? [];
  return {
    ...source,
    harmony: {
      chords: heardChords(bars, measures.detail?.beatChords ?? [], barBeats, source.family),
      isStated: false,
      bars: bars.map(({ pitchClasses }) => pitchClasses),
      line: null,
    },
  };
}

/** What share of the lowest notes, by how long they sound, are of the chord they were composed over, and of the wanted one: by key alone, and by the plan. */
export function bassShares(
  { notes, spans, project }: Pair,
  source: LoopSource,
): { readonly own: number; readonly before: number; readonly after: number } {
  const [clip] = project.tracks[0].clips,
    plan = chordPlanOf(clip, source, project),
    lowest = notes.filter((note) => !notes.some((other) => Math.abs(other.startBeat - note.startBeat) < 0.05 && other.pitch < note.pitch));
  const byKey = keyShift(source, project.key);
  let sum = 0,
    own = 0,
    before = 0,
    after = 0;
  for (let cycle = 0; cycle < clip.lengthBeats; cycle += beats)
    for (const note of lowest) {
      const at = cycle + Math.max(0, note.startBeat);
      if (at >= clip.lengthBeats) continue;
      const symbol = project.chords.findLast(({ startBeat }) => startBeat <= at + 0.05)?.symbol ?? '',
        wanted = chordPitchClasses(symbol) ?? [],
        span = spans.findLast(({ startBeat }) => startBeat <= note.startBeat + 0.05) ?? spans[0],
        stretch = plan.findLast(({ startBeat }) => startBeat <= at + 0.05);
      sum += note.lengthBeats;
      if (span.intervals.some((interval) => pitchClass(span.root + interval) === pitchClass(note.pitch))) own += note.lengthBeats;
      if (wanted.includes(pitchClass(note.pitch + byKey))) before += note.lengthBeats;
      if (wanted.includes(pitchClass(note.pitch + (stretch?.semitones ?? 0) + byKey))) after += note.lengthBeats;
    }
  return { own: own / sum, before: before / sum, after: after / sum };
}
