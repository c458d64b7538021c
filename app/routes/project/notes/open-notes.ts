import { loopToPatterns, placePattern } from '~core/arrangement/acts/patterns';
import type { Edit } from '~core/arrangement/edit';
import { fitClip } from '~core/arrangement/plan';
import { emptyPattern, notesOfLine, patternsOfMidi } from '~core/arrangement/pattern/make-pattern';
import { hasClearLine } from '~core/arrangement/harmony/note-moves';
import type { Clip, Project } from '~core/arrangement/tree';
import { countedBeat } from '~core/formats/smf/counted-beat';
import { parseSmf } from '~core/formats/smf/parse';
import { instrumentById } from '~core/theory/instruments';
import { projectRateHz } from '~core/units/time';
import type { WholeLoop } from '~contracts/whole-loop';
import { newId } from '~/ui/new-id';

/** What opens the notes of a clip: nothing to be done, an edit first, or in words why not. */
export type Opening =
  | {
      readonly edit: Edit | null;
      readonly clipId: string;
      readonly says?: string;
      /** Notes that are in doubt: they are chosen, so that one looks at them first. */
      readonly doubted?: readonly string[];
    }
  | { readonly wrong: string };

/** From here a heard note is taken as it is. */
const sureNote = 0.5;

/**
 * The notes of a clip, to be edited: those of its pattern; of a MIDI loop a pattern of the project made of them; of a sound that is one clear line a
 * pattern on a track of its own, to be played by another instrument.
 */
export async function openingOf(project: Project, clip: Clip, row: WholeLoop | undefined): Promise<Opening> {
  if (clip.content.kind === 'notes') return { edit: null, clipId: clip.id };
  if (!row) return { wrong: 'Its loop is gone.' };
  const { source } = row;
  if (source.media === 'midi') {
    const response = await fetch(`/media/sound/${source.soundSha}`);
    if (!response.ok) return { wrong: 'Its notes cannot be had.' };
    const midi = parseSmf(new Uint8Array(await response.arrayBuffer())),
      { beatQuarters } = countedBeat(midi),
      lengthBeats = source.beats ?? midi.lengthBeats / beatQuarters,
      made = loopToPatterns(
        project,
        clip,
        source,
        (beatScale) => patternsOfMidi(midi, { ...source, lengthBeats }, row.title, beatQuarters, beatScale, newId),
        newId,
      );
    return made ? { edit: made.edit, clipId: clip.id } : { wrong: 'There are no notes in it.' };
  }
  const line = source.harmony?.line;
  if (!line || !hasClearLine(source) || !source.tempoBpm || !source.beats)
    return { wrong: 'Its notes are not clear: only a single line, of a known tempo, can be written down.' };
  const notes = notesOfLine(
      line,
      { startSeconds: source.startFrame / projectRateHz, tempoBpm: source.tempoBpm, lengthBeats: source.beats },
      newId,
    ),
    { cycleBeats } = fitClip(clip, source, project),
    scale = cycleBeats / source.beats,
    doubted = notes.filter(({ confidence }) => confidence < sureNote).map(({ id }) => id),
    pattern = emptyPattern({
      id: newId(),
      name: `${row.title.slice(0, 100)}, notes`,
      lengthBeats: cycleBeats,
      key: source.key,
      instrument: source.instrument && instrumentById(source.instrument) ? source.instrument : 'electric-piano',
      fromLoopId: row.id,
      notes: notes.map(({ confidence: _, ...note }) => ({
        ...note,
        startBeat: note.startBeat * scale,
        lengthBeats: note.lengthBeats * scale,
      })),
    }),
    placed = placePattern(
      project,
      pattern,
      {
        trackId: null,
        startBeat: clip.startBeat,
        lengthBeats: clip.lengthBeats,
        offsetBeats: clip.offsetBeats,
        followKey: clip.followKey,
        shiftSemitones: Math.round(clip.shiftSemitones),
      },
      newId,
    );
  return {
    ...placed,
    doubted,
    says: `${notes.length} notes heard in it${doubted.length > 0 ? `, ${doubted.length} of them in doubt: those are chosen` : ', all of them clear'}. The sound itself stays as it is.`,
  };
}
