import { sameKey } from '../theory/key';
import { beatsPerBar } from '../units/time';
import type { Edit } from './edit';
import { keyAt, keySectionAt } from './harmony/harmony';
import { fillLandsAtBeat, landingBeats, lands, type Fitted, type LoopSource } from './fit-request';
import { keptOverrides, noOverrides, type ClipOverrides } from './fit-settings';
import { fitClip, type Setting, type Treated } from './plan';
import { newClip, newTrack, projectEndBeat, trackColourCount, type Project } from './tree';

/** How a candidate is heard, whichever part of the product plays it. */
export interface Heard {
  readonly followTempo: boolean;
  readonly followKey: boolean;
  readonly overrides: ClipOverrides;
  /** What brings it to the level at which it was judged. */
  readonly gainDb: number;
}

export const asItIs: Heard = { followTempo: true, followKey: true, overrides: noOverrides, gainDb: 0 };

/** How a heard loop is fitted into a project. */
export const fitHeard = (
  loop: LoopSource,
  setting: Setting,
  heard: Pick<Heard, 'followTempo' | 'followKey' | 'overrides'> = asItIs,
): Fitted => fitClip(treatedAs(heard), loop, setting);

/** What a clip keeps of how its loop was heard: the two are fitted by the same plan, so that what is placed is what was heard. */
const treatedAs = ({ followTempo, followKey, overrides }: Pick<Heard, 'followTempo' | 'followKey' | 'overrides'>): Treated => ({
  followTempo,
  followKey,
  shiftSemitones: overrides.shiftSemitones,
  overrides: keptOverrides(overrides),
});

export interface Placing {
  readonly loop: LoopSource;
  /** Names a new track. */
  readonly title: string;
  /** null: onto a new track. */
  readonly trackId: string | null;
  readonly startBeat: number;
  /** How many bars it is repeated for; a one-shot is as long as it is. */
  readonly lengthBars: number;
  /** Who gives way where tempo or key differ. */
  readonly givesWay: 'loop' | 'project';
  /** As it was auditioned; left out: in the project's tempo and key, untreated, at its own level. */
  readonly heard?: Heard;
  readonly offsetBeats?: number;
  readonly newTrackId: string;
  readonly newClipId: string;
}

/** Whether tempo or key differ, so that somebody must give way; what does not follow asks nobody to. */
export function placingConflict(
  setting: Setting,
  loop: LoopSource,
  { followTempo, followKey }: Pick<Heard, 'followTempo' | 'followKey'> = asItIs,
): { readonly tempo: boolean; readonly key: boolean } {
  const fitted = fitHeard(loop, setting);
  return {
    tempo: followTempo && loop.tempoBpm !== null && Math.abs(fitted.speedPercent) >= 0.05,
    key: followKey && loop.key !== null && loop.pitched === true && fitted.shiftSemitones !== 0,
  };
}

/** Bars a loop is placed for when nobody says: to the end of its section, else of the project, else 8; a one-shot or a fill as long as it is. */
export function defaultLengthBars(project: Project, loop: LoopSource, startBeat: number, heard?: Heard): number {
  const bar = beatsPerBar(project.meter);
  const fitted = fitHeard(loop, project, heard);
  if (!Number.isFinite(fitted.cycleFrames) || lands(loop)) return Math.max(1, Math.ceil(fitted.cycleBeats / bar));
  const section = project.sections.find((each) => startBeat >= each.startBeat && startBeat < each.startBeat + each.lengthBeats);
  const until = section ? section.startBeat + section.lengthBeats : projectEndBeat(project);
  const cycleBars = fitted.cycleBeats / bar,
    wanted = Math.max(cycleBars, until > startBeat ? (until - startBeat) / bar : 8);
  // A section is filled to its end; without one the loop is let to finish.
  return Math.max(1, Math.round(section ? wanted : Math.ceil(wanted / cycleBars - 1e-6) * cycleBars));
}

/** The edit that places a loop as it was heard. When the project gives way, it takes the loop's tempo and key, and everything in it follows. */
export function placeLoop(project: Project, placing: Placing): Edit {
  const { loop, givesWay, heard = asItIs } = placing,
    edits: Edit[] = [];
  const tempoBpm = givesWay === 'project' && loop.tempoBpm !== null ? Math.min(300, Math.max(30, loop.tempoBpm)) : project.tempoBpm;
  const before = keyAt(project, placing.startBeat),
    key = givesWay === 'project' && loop.key !== null ? loop.key : before,
    section = sameKey(key, before) ? null : keySectionAt(project, placing.startBeat);
  // Where a section says the key, it is the section that gives way.
  if (section) edits.push({ kind: 'set-section', sectionId: section.id, changes: { key } });
  if (tempoBpm !== project.tempoBpm || (!section && !sameKey(key, before)))
    edits.push({ kind: 'set-project', changes: { tempoBpm, key: section || sameKey(key, before) ? project.key : key } });
  const fitted = fitHeard(loop, { tempoBpm, key }, heard),
    repeats = Number.isFinite(fitted.cycleFrames),
    lengthBeats = repeats ? placing.lengthBars * beatsPerBar(project.meter) : Math.max(1 / 16, fitted.cycleBeats),
    // A fill leads up to its line for as long as it is wanted; at bar 1 there is nothing to lead up from.
    leadsUp = repeats && lands(loop) && placing.startBeat > 0,
    landsAfter = leadsUp ? lengthBeats - fitted.cycleBeats + fillLandsAtBeat(loop, fitted) : landingBeats(loop, fitted, tempoBpm),
    // What lands does so on its line; what would begin before bar 1 is heard from there on.
    startBeat = landsAfter === null ? placing.startBeat : Math.max(0, placing.startBeat - landsAfter),
    offset = repeats ? (((placing.offsetBeats ?? 0) % fitted.cycleBeats) + fitted.cycleBeats) % fitted.cycleBeats : 0;
  const clip = newClip({
    ...treatedAs(heard),
    id: placing.newClipId,
    loopId: loop.loopId,
    startBeat,
    lengthBeats:
      landsAfter === null
        ? lengthBeats
        : Math.max(1 / 16, placing.startBeat + (repeats ? lengthBeats : fitted.cycleBeats) - landsAfter - startBeat),
    landsAfterBeats: landsAfter === null ? null : placing.startBeat - startBeat,
    offsetBeats: leadsUp && landsAfter !== null ? Math.max(0, landsAfter - placing.startBeat) : offset,
    gainDb: heard.gainDb,
  });
  if (placing.trackId !== null) edits.push({ kind: 'add-clip', trackId: placing.trackId, clip });
  else
    edits.push({
      kind: 'add-track',
      index: project.tracks.length,
      track: newTrack({
        id: placing.newTrackId,
        name: placing.title.slice(0, 120),
        colour: project.tracks.length % trackColourCount,
        clips: [clip],
      }),
    });
  return edits.length === 1 ? edits[0] : { kind: 'batch', edits };
}
