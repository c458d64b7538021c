import { useMemo } from 'react';
import { fitClip } from '~core/arrangement/plan';
import { loopIdOf, projectEndBeat, type Clip, type Project } from '~core/arrangement/tree';
import * as clips from '~core/arrangement/acts/clips';
import type { Edit } from '~core/arrangement/edit';
import { beatsPerBar } from '~core/units/time';
import { useEngine, useEngineState } from '~/audio/hooks';
import { newId } from '~/ui/new-id';
import { useProjectStore, useProject } from '~/ui/project-store';
import { toast } from '~/ui/toast';

/** What can be done to the chosen clips, each as one step; what cannot be done says why. */
export function useClipActs(project: Project, chosen: readonly string[]) {
  const store = useProjectStore(),
    engine = useEngine(),
    range = useEngineState((state) => state.range),
    loops = useProject((state) => state.loops);
  return useMemo(() => {
    const bar = beatsPerBar(project.meter),
      cycleBeatsOf = (clip: Clip): number => {
        const row = loops.get(loopIdOf(clip));
        if (!row) return Infinity;
        const { cycleBeats, cycleFrames } = fitClip(clip, row.source, project);
        return Number.isFinite(cycleFrames) ? cycleBeats : Infinity;
      },
      all = project.tracks.flatMap((track) => track.clips),
      of = all.filter(({ id }) => chosen.includes(id)),
      tracksOf = project.tracks.filter((track) => track.clips.some(({ id }) => chosen.includes(id))).map(({ id }) => id),
      end = projectEndBeat(project),
      make = (edit: Edit | null, otherwise: string) => {
        const wrong = edit ? store.edit(edit) : otherwise;
        if (wrong) toast(wrong);
      };
    return {
      cutHere: () =>
        make(
          clips.cutClips(project, chosen, [Math.round(engine.positionBeat() * 4) / 4], newId),
          'The playhead lies in none of the chosen clips.',
        ),
      cutAtBars: () => make(clips.cutAtBars(project, chosen, bar, newId), 'There is no bar line inside.'),
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
      join: () => make(clips.joinClips(project, chosen, cycleBeatsOf), 'What is chosen does not go on from one to the next.'),
      move: (beats: number, tracks: number) => make(clips.moveClips(project, chosen, beats, tracks), 'There is no room to go.'),
      trimStart: (beats: number) => make(clips.trimStart(project, chosen, beats), 'It cannot begin earlier.'),
      slip: (beats: number) => make(clips.slipInside(project, chosen, beats, cycleBeatsOf), 'Nothing is chosen.'),
      gaps: (plays: readonly boolean[]) => make(clips.gapsByPattern(project, chosen, plays, bar, newId), 'It is too short for gaps.'),
      breakInRange: () =>
        make(
          range ? clips.silence(project, tracksOf, range.startBeat, range.endBeat, newId) : null,
          'Choose a range first: Shift and drag on the ribbon above.',
        ),
      remove: () => {
        const edit = clips.removeClips(project, chosen);
        if (!edit || store.edit(edit) !== null) return;
        toast(chosen.length === 1 ? 'Removed the clip.' : `Removed ${chosen.length} clips.`, {
          action: { label: 'Undo', onClick: () => store.undo() },
        });
      },
    };
  }, [project, chosen, loops, range, store, engine]);
}

export type ClipActs = ReturnType<typeof useClipActs>;

/** Edits as one step. */
function together(a: Edit | null, b: Edit | null): Edit | null {
  if (!a || !b) return a ?? b;
  const edits = [a, b].flatMap((edit) => (edit.kind === 'batch' ? edit.edits : [edit]));
  return { kind: 'batch', edits };
}
