import { useMemo } from 'react';
import { fitClip } from '~core/arrangement/plan';
import { ofLoop, patternOf, projectEndBeat, type Clip, type Project } from '~core/arrangement/tree';
import * as clips from '~core/arrangement/acts/clips';
import * as shaping from '~core/arrangement/acts/shaping';
import { otherWayRound } from '~core/arrangement/acts/key';
import type { Edit } from '~core/arrangement/edit';
import { beatsPerBar } from '~core/units/time';
import { useEngine } from '~/audio/hooks';
import { newId } from '~/ui/new-id';
import { useProjectStore, useProject } from '~/ui/project-store';
import { toast } from '~/ui/toast';

/** What rings on behind the line of a break goes down over so many beats. */
const ringBeats = 2;

/** What can be done to the chosen clips, each as one step; what cannot be done says why. */
export function useClipActs(project: Project, chosen: readonly string[]) {
  const store = useProjectStore(),
    engine = useEngine(),
    loops = useProject((state) => state.loops);
  return useMemo(() => {
    const bar = beatsPerBar(project.meter),
      cycleBeatsOf = (clip: Clip): number => {
        const pattern = patternOf(project, clip),
          row = ofLoop(loops, clip);
        if (pattern) return pattern.lengthBeats;
        if (!row) return Infinity;
        const { cycleBeats, cycleFrames } = fitClip(clip, row.source, project);
        return Number.isFinite(cycleFrames) ? cycleBeats : Infinity;
      },
      all = project.tracks.flatMap((track) => track.clips),
      of = all.filter(({ id }) => chosen.includes(id)),
      tracksOf = project.tracks.filter((track) => track.clips.some(({ id }) => chosen.includes(id))).map(({ id }) => id),
      end = projectEndBeat(project),
      hereBeat = () => Math.round(engine.positionBeat() * 4) / 4,
      make = (edit: Edit | null, otherwise: string) => {
        const wrong = edit ? store.edit(edit) : otherwise;
        if (wrong) toast(wrong);
      },
      noRange = 'Choose a range first: drag along the bar numbers.',
      inRange = (act: (from: number, to: number) => Edit | null, otherwise: string) => {
        // The range of the whole piece is none that was chosen.
        const range = engine.chosenRange;
        make(range && act(range.startBeat, range.endBeat), range ? otherwise : noRange);
      };
    return {
      cycleBeatsOf,
      make,
      cutHere: () => make(clips.cutClips(project, chosen, [hereBeat()], newId), 'The playhead lies in none of the chosen clips.'),
      cutAtBars: () => make(clips.cutAtBars(project, chosen, bar, newId), 'There is no bar line inside.'),
      cutAtSections: () => make(shaping.cutAtSections(project, chosen, newId), 'There is no line of a section inside.'),
      toSectionEnd: () =>
        make(
          of
            .map((clip) => clips.repeatTo(project, [clip.id], clips.endBeatFor(project, clip.startBeat, end)))
            .reduce<Edit | null>(together, null),
          'It ends there already.',
        ),
      toProjectEnd: () => make(clips.repeatTo(project, chosen, end), 'It ends there already.'),
      onceMore: () =>
        make(
          clips.repeatOnce(
            project,
            of.filter((clip) => Number.isFinite(cycleBeatsOf(clip))).map(({ id }) => id),
            cycleBeatsOf,
          ),
          'What plays once cannot be repeated inside its clip: copy it.',
        ),
      copyBehind: () => make(clips.copyBehind(project, chosen, newId), 'Nothing is chosen.'),
      copyBy: (beats: number, tracks: number) => make(clips.copyClips(project, chosen, beats, tracks, newId), 'Nothing is chosen.'),
      join: () => make(clips.joinClips(project, chosen, cycleBeatsOf), 'What is chosen does not go on from one to the next.'),
      move: (beats: number, tracks: number) => make(clips.moveClips(project, chosen, beats, tracks), 'There is no room to go.'),
      moveMs: (milliseconds: number) =>
        make(clips.moveClips(project, chosen, (milliseconds * project.tempoBpm) / 60_000, 0), 'There is no room to go.'),
      lengthen: (beats: number) =>
        make(
          shaping.changeClips(project, chosen, ({ lengthBeats }) => ({ lengthBeats: Math.max(1 / 16, lengthBeats + beats) })),
          'It cannot be shorter.',
        ),
      trimStart: (beats: number) => make(clips.trimStart(project, chosen, beats), 'It cannot begin earlier.'),
      slip: (beats: number) => make(clips.slipInside(project, chosen, beats, cycleBeatsOf), 'Nothing is chosen.'),
      gaps: (plays: readonly boolean[]) => make(clips.gapsByPattern(project, chosen, plays, bar, newId), 'It is too short for gaps.'),
      breakInRange: () => inRange((from, to) => clips.silence(project, tracksOf, from, to, newId), 'Nothing sounds there.'),
      breakRinging: () =>
        inRange((from, to) => shaping.breakRinging(project, tracksOf, from, to, ringBeats, newId), 'Nothing sounds there.'),
      repeatPart: () =>
        inRange(
          (from, to) => shaping.repeatPart(project, chosen, from, to, newId),
          'The range must lie inside a chosen clip, before its end.',
        ),
      apart: () =>
        make(
          of
            .map((clip) => shaping.repetitionApart(project, clip.id, hereBeat(), cycleBeatsOf(clip), newId))
            .reduce<Edit | null>(together, null),
          'Put the playhead on the repetition that is to be different.',
        ),
      mute: () => make(shaping.toggleMuted(project, chosen), 'Nothing is chosen.'),
      fade: (fades: { readonly fadeInBeats?: number; readonly fadeOutBeats?: number }) =>
        make(shaping.setFades(project, chosen, fades), 'It is so already.'),
      crossfade: () => make(shaping.crossfade(project, chosen), 'No two of the chosen clips overlap on a track.'),
      transpose: (semitones: number) => make(shaping.transposeClips(project, chosen, semitones), 'It can go no further.'),
      level: (db: number) => make(shaping.levelClips(project, chosen, db), 'It can go no further.'),
      asTheyCame: () => make(shaping.asTheyCame(project, chosen), 'They are as they came.'),
      change: (change: (clip: Clip) => Partial<Clip>) => make(shaping.changeClips(project, chosen, change), 'It is so already.'),
      otherWay: () =>
        make(
          otherWayRound(project, chosen, new Map([...loops].map(([id, { source }]) => [id, source]))),
          'The key of the piece moves none of them.',
        ),
      remove: () => {
        const edit = clips.removeClips(project, chosen);
        if (!edit || store.edit(edit) !== null) return;
        toast(chosen.length === 1 ? 'Removed the clip.' : `Removed ${chosen.length} clips.`, {
          action: { label: 'Undo', onClick: store.undoOfLast() },
        });
      },
    };
  }, [project, chosen, loops, store, engine]);
}

export type ClipActs = ReturnType<typeof useClipActs>;

/** Edits as one step. */
function together(a: Edit | null, b: Edit | null): Edit | null {
  if (!a || !b) return a ?? b;
  const edits = [a, b].flatMap((edit) => (edit.kind === 'batch' ? edit.edits : [edit]));
  return { kind: 'batch', edits };
}
