import { keyCode } from '../../theory/key';
import { pitchName } from '../../theory/spelling';
import { beatsPerBar } from '../../units/time';
import { notesOfKey } from '../clash';
import type { LoopSource } from '../fit-request';
import { applyEdit, type Edit } from '../edit';
import { projectEndBeat, type Project } from '../tree';
import { harmonyAt } from './harmony';
import { canFollowChords } from './chord-plan';
import { hasClearLine } from './note-moves';
import { classesOfSymbol, soundingClips, type SoundingClip } from './sounding-classes';

/** A note of one clip that rubs against one of another, or against the chord that is written. */
export interface Rub {
  readonly startBeat: number;
  readonly endBeat: number;
  readonly clipId: string;
  readonly pitch: number;
  /** null: against the chord. */
  readonly otherClipId: string | null;
  readonly otherPitch: number;
  readonly symbol: string | null;
  /** 0–1, how hard. */
  readonly degree: number;
}

/** What is under this share of a clip's strongest note is an overtone, or passes. */
const clearShare = 0.4,
  /** What belongs to the key rubs less against the chord than what does not (common practice). */
  inKeyShare = 0.5,
  /** So weak an encounter is not heard as one. */
  leastDegree = 0.45;

/**
 * Where notes rub: over all that sounds with a pitch, bar by bar, notes a semitone apart of which at least one belongs neither to the chord nor, where none
 * is written, to the key; and notes a semitone beside one of the written chord. Notes that are both of the chord never rub, whatever lies between them.
 */
export function rubsIn(project: Project, loops: ReadonlyMap<number, LoopSource>): Rub[] {
  const sounding = soundingClips(project, loops),
    bar = beatsPerBar(project.meter),
    end = projectEndBeat(project),
    found: Rub[] = [];
  for (let from = 0; from < end - 1e-6; from += bar) {
    const lines = [
      from,
      ...project.chords.flatMap(({ startBeat }) => (startBeat > from + 1e-6 && startBeat < from + bar - 1e-6 ? startBeat : [])),
      from + bar,
    ];
    for (let k = 0; k + 1 < lines.length; k++) found.push(...rubsBetween(sounding, project, lines[k], lines[k + 1]));
  }
  return merged(found);
}

interface Voiced {
  readonly each: SoundingClip;
  readonly classes: readonly number[];
}

function rubsBetween(sounding: readonly SoundingClip[], project: Project, from: number, to: number): Rub[] {
  const { key, symbol } = harmonyAt(project, from),
    chord = new Set(classesOfSymbol(symbol)),
    inKey = key ? notesOfKey(keyCode(key)) : null,
    isOfKey = (pitch: number) => inKey?.has(pitch) ?? false,
    weightOf = (a: number, b: number) => (isOfKey(a) && isOfKey(b) ? inKeyShare : 1),
    isHome = (pitch: number) => (chord.size > 0 ? chord.has(pitch) : inKey ? inKey.has(pitch) : false),
    voices: Voiced[] = sounding.flatMap((each) => {
      if (each.clip.startBeat >= to || each.clip.startBeat + each.clip.lengthBeats <= from) return [];
      const strengths = each.classesBetween(from, to),
        most = Math.max(...strengths);
      return most > 0.02 ? [{ each, classes: [...strengths].map((value) => (value >= clearShare * most ? value / most : 0)) }] : [];
    }),
    found: Rub[] = [];
  for (const [a, { each, classes }] of voices.entries())
    for (const [pitch, strength] of classes.entries()) {
      if (strength <= 0) continue;
      for (const other of [(pitch + 1) % 12, (pitch + 11) % 12]) {
        for (const beside of voices.slice(a + 1)) {
          const there = beside.classes[other];
          if (there <= 0 || (isHome(pitch) && isHome(other))) continue;
          // Both sounding both is one harmony of the two, no clash between them.
          if (classes[other] > 0 && beside.classes[pitch] > 0) continue;
          found.push(rub(from, to, each, pitch, beside.each.clip.id, other, symbol, Math.sqrt(strength * there) * weightOf(pitch, other)));
        }
        if (chord.size > 0 && !chord.has(pitch) && chord.has(other) && !isOfKey(pitch))
          found.push(rub(from, to, each, pitch, null, other, symbol, strength * 0.8));
      }
    }
  return found.filter(({ degree }) => degree >= leastDegree);
}

const rub = (
  startBeat: number,
  endBeat: number,
  { clip }: SoundingClip,
  pitch: number,
  otherClipId: string | null,
  otherPitch: number,
  symbol: string | null,
  degree: number,
): Rub => ({ startBeat, endBeat, clipId: clip.id, pitch, otherClipId, otherPitch, symbol, degree });

/** What rubs alike in stretches that follow each other is one. */
function merged(rubs: readonly Rub[]): Rub[] {
  const out: Rub[] = [];
  for (const each of rubs) {
    const at = out.findLastIndex(
      (before) =>
        Math.abs(before.endBeat - each.startBeat) < 1e-6 &&
        before.clipId === each.clipId &&
        before.otherClipId === each.otherClipId &&
        before.pitch === each.pitch &&
        before.otherPitch === each.otherPitch,
    );
    if (at < 0) out.push(each);
    else out[at] = { ...out[at], endBeat: each.endBeat, degree: Math.max(out[at].degree, each.degree) };
  }
  return out.sort((a, b) => a.startBeat - b.startBeat || b.degree - a.degree);
}

/** How hard all of it rubs: what an act that mends should make smaller. */
export const totalRub = (rubs: readonly Rub[]): number =>
  rubs.reduce((sum, { startBeat, endBeat, degree }) => sum + (endBeat - startBeat) * degree, 0);

/** `F of Bass against F♯ of Keys, bars 3–4`. @param nameOf what a clip is called */
export function rubInWords(each: Rub, project: Project, nameOf: (clipId: string) => string): string {
  const bar = beatsPerBar(project.meter),
    { key } = harmonyAt(project, each.startBeat),
    [first, last] = [Math.floor(each.startBeat / bar + 1e-6) + 1, Math.ceil(each.endBeat / bar - 1e-6)],
    other =
      each.otherClipId === null
        ? `${pitchName(each.otherPitch, key)} of the chord ${each.symbol}`
        : `${pitchName(each.otherPitch, key)} of ${nameOf(each.otherClipId)}`;
  return `${pitchName(each.pitch, key)} of ${nameOf(each.clipId)} against ${other}, ${first === last ? `bar ${first}` : `bars ${first}–${last}`}`;
}

/** An act that makes a rub smaller, with what it does. */
export interface Mend {
  readonly edit: Edit;
  readonly clipId: string;
  readonly does: string;
  /** How much less rubs in all afterwards, 0–1. */
  readonly gain: number;
}

/** The one act that mends a rub best: what lets one of the two go with key or chords of the piece, or moves it; null where none helps. */
export function mendOf(each: Rub, project: Project, loops: ReadonlyMap<number, LoopSource>): Mend | null {
  const before = totalRub(rubsIn(project, loops)),
    candidates = [each.clipId, each.otherClipId].flatMap((clipId) => (clipId === null ? [] : mendsOfClip(clipId, project, loops)));
  let best: Mend | null = null;
  for (const { edit, clipId, does, cost } of candidates) {
    const after = totalRub(rubsIn(applyEdit(project, edit).project, loops)) + cost * before,
      gain = before > 0 ? 1 - after / before : 0;
    if (gain > 0.02 && (!best || gain > best.gain)) best = { edit, clipId, does, gain };
  }
  return best;
}

/** What can be done to a clip, each with what it costs beside what it mends: moving by hand comes last. */
function mendsOfClip(clipId: string, project: Project, loops: ReadonlyMap<number, LoopSource>) {
  const track = project.tracks.find(({ clips }) => clips.some(({ id }) => id === clipId)),
    clip = track?.clips.find(({ id }) => id === clipId);
  if (!track || !clip) return [];
  const source = clip.content.kind === 'loop' ? loops.get(clip.content.loopId) : undefined,
    isNotes = clip.content.kind === 'notes',
    act = (changes: Partial<typeof clip>, does: string, cost: number) => ({
      edit: { kind: 'set-clip', clipId, trackId: track.id, changes } as const,
      clipId,
      does,
      cost,
    });
  return [
    ...(!clip.followKey ? [act({ followKey: true }, 'lets it follow the key', 0)] : []),
    ...(clip.chordWay === null && project.chords.length > 0 && (isNotes || (source && canFollowChords(source)))
      ? [act({ chordWay: 'roots', shiftMarks: null }, 'lets it follow the chords', 0.01)]
      : []),
    ...(clip.chordWay !== 'notes' && project.chords.length > 0 && source && hasClearLine(source)
      ? [act({ chordWay: 'notes', shiftMarks: null }, 'brings its notes to the chords, one by one', 0.03)]
      : []),
    ...[-1, 1, -2, 2, -3, 3, -5, 5].map((by) =>
      act({ shiftSemitones: clip.shiftSemitones + by }, `moves it ${by > 0 ? 'up' : 'down'} ${Math.abs(by)}`, 0.05 + 0.01 * Math.abs(by)),
    ),
  ];
}
