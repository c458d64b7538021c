import { fitLoop, landingFrames, type Fitted, type LoopSource } from './fit-request';
import { noOverrides } from './fit-settings';
import type { Clip, Project } from './tree';

/** What a clip is made to belong to. */
export type Setting = Pick<Project, 'tempoBpm' | 'key'>;

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
  /** Where what plays once lands, in the piece and in what is rendered; null: it begins with the segment. */
  readonly landing: { readonly beat: number; readonly frame: number } | null;
}

/** What of a clip says how its content is made to belong. */
export type Treated = Pick<Clip, 'followTempo' | 'followKey' | 'shiftSemitones' | 'overrides'>;

/** How the content of a clip is made to belong to a setting. */
export const fitClip = (clip: Treated, source: LoopSource, { tempoBpm, key }: Setting): Fitted =>
  fitLoop(source, {
    tempoBpm,
    key,
    followTempo: clip.followTempo,
    followKey: clip.followKey,
    overrides: { ...noOverrides, ...clip.overrides, shiftSemitones: clip.shiftSemitones },
  });

/** What of a clip is rendered, and when it sounds: nothing of one that is muted. */
export function planClip(clip: Clip, source: LoopSource, setting: Setting): readonly Segment[] {
  if (clip.muted) return [];
  const { startBeat, lengthBeats, offsetBeats, gainDb, fadeInBeats, fadeOutBeats, landsAfterBeats } = clip,
    fitted = fitClip(clip, source, setting),
    frame = landingFrames(source, fitted);
  return [
    {
      fitted,
      startBeat,
      lengthBeats,
      offsetBeats,
      gainDb,
      fadeInBeats,
      fadeOutBeats,
      landing: landsAfterBeats === null || frame === null ? null : { beat: startBeat + landsAfterBeats, frame },
    },
  ];
}
