import { keyAt, linesBetween, type Harmonic } from './harmony/harmony';
import { planChords, type PlannedStretch } from './harmony/chord-plan';
import { noteMovesFor } from './harmony/note-moves';
import { chooseStretchMode, fitLoop, keyShift, landingFrames, type Fitted, type LoopSource } from './fit-request';
import { noOverrides } from './fit-settings';
import type { Clip, Project } from './tree';

/** What a clip is made to belong to: tempo and key, and where they are known the sections and chords of the piece. */
export type Setting = Pick<Project, 'tempoBpm'> & Harmonic & Partial<Pick<Project, 'meter'>>;

/** A stretch of beats in which one thing that is rendered sounds, round and round or once. */
export interface Segment {
  readonly fitted: Fitted;
  readonly startBeat: number;
  readonly lengthBeats: number;
  /** Where in what is rendered it begins. */
  readonly offsetBeats: number;
  readonly gainDb: number;
  readonly fadeInBeats: number;
  readonly fadeOutBeats: number;
  /** Of which it is a part: its fades are those of the whole. */
  readonly whole: { readonly startBeat: number; readonly lengthBeats: number };
  /** Whether the same loop, moved otherwise, sounds right before and behind it: there the one goes over into the other. */
  readonly joins: { readonly before: boolean; readonly behind: boolean };
  /** Where what plays once lands, in the piece and in what is rendered; null: it begins with the segment. */
  readonly landing: { readonly beat: number; readonly frame: number } | null;
}

/** What of a clip says how its content is made to belong. */
export type Treated = Pick<Clip, 'followTempo' | 'followKey' | 'shiftSemitones' | 'overrides'>;

/** How the content of a clip is made to belong to a setting, in the key that holds where it begins. */
export const fitClip = (clip: Treated & Partial<Pick<Clip, 'startBeat'>>, source: LoopSource, setting: Setting): Fitted =>
  fitLoop(source, {
    tempoBpm: setting.tempoBpm,
    key: keyAt(setting, clip.startBeat ?? 0),
    followTempo: clip.followTempo,
    followKey: clip.followKey,
    overrides: { ...noOverrides, ...clip.overrides, shiftSemitones: clip.shiftSemitones },
  });

/** How many semitones the key of the piece moves a clip by, at its beats. */
const keyShiftOf =
  (clip: Clip, source: LoopSource, setting: Setting) =>
  (beat: number): number =>
    clip.followKey ? keyShift(source, keyAt(setting, beat)) : 0;

/** How a clip of a loop is moved with the chords of the piece: what its panel shows, and what is heard. */
export const chordPlanOf = (clip: Clip, source: LoopSource, setting: Setting): PlannedStretch[] =>
  planChords(clip, { source, fitted: fitClip(clip, source, setting), harmony: setting }, keyShiftOf(clip, source, setting));

/** What of a clip is rendered, and when it sounds: nothing of one that is muted. */
export function planClip(clip: Clip, source: LoopSource, setting: Setting): readonly Segment[] {
  if (clip.muted) return [];
  const { startBeat, lengthBeats, gainDb, fadeInBeats, fadeOutBeats, landsAfterBeats } = clip,
    whole = { startBeat, lengthBeats },
    parts = landsAfterBeats === null ? movedParts(clip, source, setting) : [null];
  return parts.map((part, k) => {
    const fitted = part ? part.fitted : fitClip(clip, source, setting),
      frame = landingFrames(source, fitted),
      from = part?.startBeat ?? startBeat;
    return {
      fitted,
      startBeat: from,
      lengthBeats: (part?.endBeat ?? startBeat + lengthBeats) - from,
      offsetBeats: clip.offsetBeats + from - startBeat,
      gainDb,
      fadeInBeats,
      fadeOutBeats,
      whole,
      joins: { before: k > 0, behind: k < parts.length - 1 },
      landing: landsAfterBeats === null || frame === null ? null : { beat: startBeat + landsAfterBeats, frame },
    };
  });
}

interface MovedPart {
  readonly startBeat: number;
  readonly endBeat: number;
  readonly fitted: Fitted;
}

/** A clip in the parts that are rendered apart: where its key or its chords ask for another move. */
function movedParts(clip: Clip, source: LoopSource, setting: Setting): MovedPart[] {
  const overrides = { ...noOverrides, ...clip.overrides, shiftSemitones: clip.shiftSemitones },
    isTape = (overrides.stretchMode ?? chooseStretchMode(source)) === 'plain',
    keyShiftAt = isTape ? () => 0 : keyShiftOf(clip, source, setting),
    stretches = isTape ? [] : chordPlanOf(clip, source, setting),
    end = clip.startBeat + clip.lengthBeats,
    lines = [
      clip.startBeat,
      ...linesBetween({ ...setting, chords: [] }, clip.startBeat, end).filter(() => clip.followKey),
      ...stretches.slice(1).map(({ startBeat }) => startBeat),
    ]
      .sort((a, b) => a - b)
      .filter((beat, k, all) => k === 0 || beat > all[k - 1] + 1e-6),
    isNoteWise = clip.chordWay === 'notes' && source.media === 'audio',
    parts: (MovedPart & { readonly same: string })[] = [];
  for (const [k, startBeat] of lines.entries()) {
    const stretch = stretches.findLast((each) => each.startBeat <= startBeat + 1e-6),
      moves = isNoteWise && stretch ? noteMovesFor(source, stretch, setting, keyShiftAt(startBeat)) : null,
      semitones = moves ? 0 : (stretch?.semitones ?? 0),
      endBeat = lines[k + 1] ?? end,
      same = `${keyShiftAt(startBeat) + semitones} ${moves?.join(',') ?? ''}`,
      last = parts.at(-1);
    if (last?.same === same) {
      parts[parts.length - 1] = { ...last, endBeat };
      continue;
    }
    parts.push({
      startBeat,
      endBeat,
      same,
      fitted: fitLoop(source, {
        tempoBpm: setting.tempoBpm,
        key: keyAt(setting, startBeat),
        followTempo: clip.followTempo,
        followKey: clip.followKey,
        overrides,
        chordSemitones: semitones,
        noteMoves: moves ?? undefined,
      }),
    });
  }
  return parts;
}
