import { keyShift, type LoopSource } from '../fit-request';
import { keyAt } from '../harmony/harmony';
import { movedToKey } from '../pattern/move-to-key';
import { ofLoop, patternOf, type Clip, type Project } from '../tree';
import { changeClips } from './shaping';
import type { Edit } from '../edit';

/** How far the key of the piece moves a clip, where it begins: 0 for drums, for what does not follow, and for what is in it already. */
export function keyMoveOf(project: Project, clip: Clip, sources: ReadonlyMap<number, LoopSource>): number {
  if (!clip.followKey) return 0;
  const key = keyAt(project, clip.startBeat),
    pattern = patternOf(project, clip),
    source = ofLoop(sources, clip);
  if (pattern)
    return !pattern.isDrums && pattern.key && key ? movedToKey(pattern.key.tonic + 60, pattern.key, key) - pattern.key.tonic - 60 : 0;
  return source ? keyShift(source, key) : 0;
}

/** The clips that the key moves go there the other way round: up instead of down, an octave away; done twice, as before. Null where none is moved. */
export const otherWayRound = (project: Project, clipIds: readonly string[], sources: ReadonlyMap<number, LoopSource>): Edit | null =>
  changeClips(project, clipIds, (clip) => {
    const by = keyMoveOf(project, clip, sources);
    if (by === 0) return {};
    const isRound = Math.sign(by) !== Math.sign(by + clip.shiftSemitones);
    return { shiftSemitones: clip.shiftSemitones + (by > 0 === isRound ? 12 : -12) };
  });
