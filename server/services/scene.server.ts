import { LRUCache } from 'lru-cache';
import type { HeardRange } from '~contracts/heard-range';
import { chordPitchClasses } from '~core/theory/chord';
import { chooseReading, keyShift } from '~core/arrangement/fit-request';
import { loopIdOf, heardTracks, patternOf, projectEndBeat, type Clip, type Project } from '~core/arrangement/tree';
import { chordAtBeat, keyAt, settingAt } from '~core/arrangement/harmony/harmony';
import type { LoopKind } from '~core/analysis/attributes/loop-kinds';
import { gapsOf, type GapFound } from '~core/search/fit/gaps';
import { ProfileReader } from '~core/search/fit/profile';
import { sceneOf, type Scene, type Sounding } from '~core/search/fit/scene';
import type { Family } from '~core/theory/instruments';
import type { Mode } from '~core/theory/key';
import { beatsPerBar, loopBarBeats, secondsToBeats } from '~core/units/time';
import { selectRows } from '../db/connection';
import { soundingLoopsSql } from '../db/queries/scene';
import { hearAnnouncements } from '../events/announce.server';
import { readTree, revisionOf } from './projects.server';

/** What sounds in a range, with the name by which what was reckoned for it is found again. */
export interface RoomScene {
  readonly key: string;
  readonly scene: Scene;
  readonly gaps: readonly GapFound[];
}

interface SoundingLoop {
  readonly id: number;
  readonly setId: number | null;
  readonly packId: number;
  readonly family: Family | null;
  readonly instrument: string | null;
  readonly pitched: boolean | null;
  readonly kind: LoopKind;
  readonly tempoBpm: number | null;
  readonly keyTonic: number | null;
  readonly keyMode: Mode | null;
  readonly beats: number | null;
  readonly bars: number | null;
  readonly meter: string | null;
  readonly loudnessLufs: number | null;
  readonly lengthSeconds: number;
  readonly profile: Buffer | null;
}

/** What work of a group needs of a licence (common practice: it is published, and loops are cut and changed). */
const needs = ['commercial', 'changed'] as const;

const scenes = new LRUCache<string, RoomScene>({ max: 32 });
let stopHearing: (() => void) | null = null,
  told = 0;

function forgetScenes(): void {
  told++;
  scenes.clear();
}

/**
 * What sounds in a project's range, for judging what would fit; null when there is no such project.
 * @param trackIds only these of its tracks, muted ones too, as if nothing else were there; null for all that is heard
 */
export async function roomScene(
  projectId: number,
  range: HeardRange | null,
  trackIds: readonly string[] | null = null,
): Promise<RoomScene | null> {
  // Facts of loops that sound may change without the project.
  stopHearing ??= hearAnnouncements(({ kind }) => kind === 'library' && forgetScenes(), forgetScenes);
  const revision = await revisionOf(projectId);
  if (revision === null) return null;
  const key = `${projectId}/${revision}/${told}/${range ? `${range.startBeat}+${range.lengthBeats}` : 'all'}/${trackIds?.join('.') ?? ''}`,
    kept = scenes.get(key);
  if (kept) return kept;
  const project = await readTree(projectId);
  if (!project) return null;
  const made = { key, ...(await sceneIn(trackIds ? onlyTracks(project, trackIds) : project, range)) };
  scenes.set(key, made);
  return made;
}

/** What would sound if these loops went round together from bar 1: for what completes them. */
export async function sceneOfLoops(ids: readonly number[], room: Pick<Project, 'tempoBpm' | 'key'> | null): Promise<RoomScene> {
  const loops = await selectRows<SoundingLoop>(soundingLoopsSql, [ids]),
    keyed = loops.find(({ keyTonic }) => keyTonic !== null),
    // Without a project they are their own.
    tempoBpm = room?.tempoBpm ?? loops.find((loop) => loop.tempoBpm !== null)?.tempoBpm ?? 120,
    key = room
      ? room.key
      : keyed && keyed.keyTonic !== null && keyed.keyMode !== null
        ? { tonic: keyed.keyTonic, mode: keyed.keyMode }
        : null,
    meter = loops.find((loop) => loop.meter !== null && loop.meter !== 'unknown')?.meter ?? '4/4',
    barBeats = beatsPerBar(meter),
    lengthBeats = 8 * barBeats,
    sounding = loops.map((loop) =>
      soundingOf(loop, { tempoBpm, key }, { startBeat: 0, lengthBeats, offsetBeats: 0, gainDb: 0, followKey: true, shiftSemitones: 0 }),
    ),
    scene = sceneOf({ tempoBpm, key, meter, barBeats, lengthBeats, sectionBars: null, chordsByBar: [], needs }, sounding);
  return {
    key: `loops ${ids.join('.')} ${tempoBpm} ${key?.tonic}${key?.mode}`,
    scene,
    gaps: gapsOf(
      scene,
      loops.map(({ family }) => family),
    ),
  };
}

/** The project with these tracks alone, none of them silent. */
const onlyTracks = (project: Project, trackIds: readonly string[]): Project => ({
  ...project,
  tracks: project.tracks
    .filter(({ id }) => trackIds.includes(id))
    .map((track) => ({ ...track, muted: false, soloed: false, setAside: false })),
});

async function sceneIn(project: Project, range: HeardRange | null): Promise<Pick<RoomScene, 'scene' | 'gaps'>> {
  const barBeats = beatsPerBar(project.meter),
    from = range?.startBeat ?? 0,
    lengthBeats = range?.lengthBeats ?? Math.max(barBeats, projectEndBeat(project)),
    until = from + lengthBeats,
    heard = heardTracks(project).flatMap((track) =>
      track.clips.filter((clip) => clip.startBeat < until && clip.startBeat + clip.lengthBeats > from).map((clip) => ({ clip, track })),
    ),
    loops = new Map(
      (await selectRows<SoundingLoop>(soundingLoopsSql, [[...new Set(heard.flatMap(({ clip }) => playedBy(project, clip) ?? []))]])).map(
        (loop) => [loop.id, loop],
      ),
    ),
    sounding = heard.flatMap(({ clip, track }) => {
      const loop = loops.get(playedBy(project, clip) ?? 0);
      if (!loop) return [];
      const before = Math.max(0, from - clip.startBeat);
      return [
        soundingOf(loop, settingAt(project, Math.max(from, clip.startBeat)), {
          startBeat: clip.startBeat + before - from,
          lengthBeats: clip.lengthBeats - before,
          offsetBeats: clip.offsetBeats + before,
          gainDb: clip.gainDb + track.gainDb,
          followKey: clip.followKey,
          shiftSemitones: clip.shiftSemitones,
        }),
      ];
    }),
    section = project.sections.findLast(({ startBeat }) => startBeat <= from + 1e-6) ?? null,
    bars = Math.ceil(lengthBeats / barBeats),
    scene = sceneOf(
      {
        tempoBpm: project.tempoBpm,
        key: keyAt(project, from),
        meter: project.meter,
        barBeats,
        lengthBeats,
        sectionBars: range ? lengthBeats / barBeats : section ? section.lengthBeats / barBeats : null,
        chordsByBar: Array.from({ length: bars }, (_, bar) => {
          const mark = chordAtBeat(project.chords, from + bar * barBeats);
          return mark ? chordPitchClasses(mark.symbol) : null;
        }),
        needs,
      },
      sounding,
    );
  return {
    scene,
    gaps: gapsOf(
      scene,
      heard.map(({ clip }) => loops.get(playedBy(project, clip) ?? 0)?.family ?? null),
    ),
  };
}

/** The loop by which a clip is judged: its own, or the one whose notes its pattern was made of. Notes of nobody are not judged. */
const playedBy = (project: Project, clip: Clip): number | null => loopIdOf(clip) ?? patternOf(project, clip)?.fromLoopId ?? null;

interface Placed {
  readonly startBeat: number;
  readonly lengthBeats: number;
  readonly offsetBeats: number;
  readonly gainDb: number;
  readonly followKey: boolean;
  readonly shiftSemitones: number;
}

function soundingOf(loop: SoundingLoop, project: Pick<Project, 'tempoBpm' | 'key'>, placed: Placed): Sounding {
  const reading = loop.tempoBpm === null ? 1 : chooseReading(loop.tempoBpm, project.tempoBpm),
    key = loop.keyTonic === null || loop.keyMode === null ? null : { tonic: loop.keyTonic, mode: loop.keyMode };
  return {
    loopId: loop.id,
    setId: loop.setId,
    packId: loop.packId,
    isDrums: loop.family === 'drums' || loop.pitched === false,
    loudnessLufs: loop.loudnessLufs === null ? null : loop.loudnessLufs + placed.gainDb,
    shiftSemitones: placed.shiftSemitones + (placed.followKey ? keyShift({ ...loop, key }, project.key) : 0),
    startBeat: placed.startBeat,
    lengthBeats: placed.lengthBeats,
    offsetBeats: placed.offsetBeats,
    barBeats: loopBarBeats(loop) * reading,
    cycleBeats: (loop.beats ?? secondsToBeats(loop.lengthSeconds, project.tempoBpm)) * reading,
    profile: loop.profile ? new ProfileReader(loop.profile) : null,
  };
}
