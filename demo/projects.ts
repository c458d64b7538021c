import { randomUUID } from 'node:crypto';
import { emptyProject, newClip, newTrack, type Clip, type Project, type Section, type Track } from '../core/arrangement/tree';
import { keyOf } from './packs/builder';

/** Finds the id of a demo loop by the end of its vendor's path. */
export type FindLoop = (pathEnding: string) => number;

const bars = (n: number): number => n * 4;

/** A clip from bar `from` (counted from 1) for `length` bars. */
function clip(loopId: number, from: number, length: number, changes: Partial<Clip> = {}): Clip {
  return newClip({ id: randomUUID(), loopId, startBeat: bars(from - 1), lengthBeats: bars(length), ...changes });
}
const track = (name: string, colour: number, gainDb: number, pan: number, clips: readonly Clip[]): Track =>
  newTrack({ id: randomUUID(), name, colour, gainDb, pan, clips });
const section = (name: string, from: number, length: number): Section => ({
  kind: 'section',
  id: randomUUID(),
  name,
  startBeat: bars(from - 1),
  lengthBeats: bars(length),
});

/** Two finished pieces. Layers enter every four bars; risers land on the line. */
export function demoProjects(find: FindLoop): readonly Project[] {
  const ferry = emptyProject('Night Ferry, opening titles', 96, keyOf('F minor').key);
  const engine = emptyProject('Engine Room', 124, keyOf('D dorian').key);
  return [
    {
      ...engine,
      masterGainDb: -3,
      sections: [section('Intro', 1, 8), section('Main', 9, 8), section('Break', 17, 4), section('Main', 21, 8)],
      chords: Array.from({ length: 14 }, (_, n) => [
        { startBeat: bars(n * 2), symbol: 'Dm7' },
        { startBeat: bars(n * 2 + 1), symbol: 'G7' },
      ]).flat(),
      tracks: [
        track('Drums', 0, -3, 0, [clip(find('TRK_Piston_124_A1.wav'), 5, 12), clip(find('TRK_Piston_124_A2.wav'), 21, 8)]),
        track('Shaker', 1, -10, 0.3, [clip(find('Shaker/Shaker 62 A.wav'), 1, 16), clip(find('Shaker/Shaker 62 A.wav'), 21, 8)]),
        track('Bass', 2, -5, 0, [
          clip(find('LLB_BassFingered_05_124bpm_Dm.aiff'), 9, 8),
          clip(find('LLB_BassFingered_05_124bpm_Dm.aiff'), 21, 8),
        ]),
        track('Tines', 3, -8, -0.2, [clip(find('Electric Piano/Electric Piano 02 - D dorian - 124 bpm.flac'), 5, 24)]),
        track('Brass', 4, -9, 0.15, [clip(find('NPB Brass Stabs 124 Dm.wav'), 13, 4), clip(find('NPB Brass Stabs 124 Dm.wav'), 25, 4)]),
      ],
    },
    {
      ...ferry,
      masterGainDb: -2,
      sections: [section('Quay', 1, 4), section('Cast off', 5, 8), section('Open water', 13, 8), section('Lights', 21, 4)],
      chords: Array.from({ length: 6 }, (_, n) =>
        ['Fm', 'D♭', 'A♭', 'E♭'].map((symbol, k) => ({ startBeat: bars(n * 4 + k), symbol })),
      ).flat(),
      tracks: [
        track('Drums', 0, -4, 0, [clip(find('TRK_LanternWalk_96_A1.wav'), 5, 16)]),
        track('Bass', 2, -5, 0, [clip(find('LLB_BassFingered_01_96bpm_Fm.aiff'), 5, 16)]),
        track('Piano', 3, -7, -0.1, [clip(find('Piano/Piano Chords 01 - F minor - 96 bpm.flac'), 1, 24)]),
        track('Strings', 4, -10, 0.1, [clip(find('Strings/Legato Strings F minor 96.ogg'), 13, 12)]),
        track('Nylon', 5, -9, 0.35, [clip(find('Nylon/WWG Nylon Guitar 96 Fm A.wav'), 9, 12)]),
      ],
    },
  ];
}
