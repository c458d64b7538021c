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

/** What strikes on a bar's line and rings on, or rises up to it: a clip around the line. */
const landing = (loopId: number, onBar: number, beforeBeats: number, behindBeats: number, changes: Partial<Clip> = {}): Clip =>
  newClip({
    id: randomUUID(),
    loopId,
    startBeat: bars(onBar - 1) - beforeBeats,
    lengthBeats: beforeBeats + behindBeats,
    landsAfterBeats: beforeBeats,
    ...changes,
  });

/** A loop of four bars from a bar on for so many, its last bar another: A A A B, the fill on the way into what follows. */
const withFill = (loopId: number, fillId: number, from: number, length: number): Clip[] => [
  clip(loopId, from, length - 1),
  clip(fillId, from + length - 1, 1),
];

/** Chords a bar each, over and over from a bar on. */
const chords = (symbols: readonly string[], from: number, length: number) =>
  Array.from({ length }, (_, n) => ({ startBeat: bars(from - 1 + n), symbol: symbols[n % symbols.length] }));

/** Two finished pieces. Layers enter every four bars; risers land on the line; fills lead on; a break, and an end that thins out. */
export function demoProjects(find: FindLoop): readonly Project[] {
  const ferry = emptyProject('Night Ferry, opening titles', 96, keyOf('F minor').key),
    engine = emptyProject('Engine Room', 124, keyOf('D dorian').key),
    [piston, piston2, pistonFill, pistonTops] = ['A1', 'A2', 'Fill', 'Tops'].map((part) => find(`TRK_Piston_124_${part}.wav`)),
    [lantern, lantern2, lanternFill, lanternTops] = ['A1', 'A2', 'Fill', 'Tops'].map((part) => find(`TRK_LanternWalk_96_${part}.wav`)),
    [shaker, tambourine, conga] = ['Shaker/Shaker', 'Tambourine/Tambourine', 'Conga/Conga'].map((path) => find(`${path} 62 A.wav`)),
    shaker96 = find('Shaker/Shaker 96 A.wav'),
    engineBass = find('LLB_BassFingered_05_124bpm_Dm.aiff'),
    engineSub = find('LLB_SubBass_08_124bpm_Dm.aiff'),
    tines = find('Electric Piano/Electric Piano 02 - D dorian - 124 bpm.flac'),
    stabs = find('NPB Brass Stabs 124 Dm.wav'),
    flute = find('Wind/NPB Flute 124 Dm.wav'),
    piano = find('Piano/Piano Chords 01 - F minor - 96 bpm.flac'),
    ferryBass = find('LLB_BassFingered_01_96bpm_Fm.aiff'),
    strings = find('Strings/Legato Strings F minor 96.ogg'),
    nylon = find('Nylon/WWG Nylon Guitar 96 Fm A.wav'),
    pad = find('Pads/Pad Kelp Fm.ogg'),
    hum = find('Voices/Voice Hum 01 Fm 96.ogg'),
    [riser3, riser4] = ['03', '04'].map((n) => find(`Transitions/Riser ${n}.ogg`)),
    impact = find('Transitions/Impact 02.ogg');
  return [
    {
      ...engine,
      masterGainDb: -4,
      sections: [
        section('Intro', 1, 8),
        section('Build', 9, 8),
        section('Main', 17, 16),
        section('Break', 33, 8),
        section('Main again', 41, 12),
        section('Out', 53, 8),
      ],
      chords: chords(['Dm7', 'G7'], 1, 60),
      tracks: [
        track('Drums', 0, -3, 0, [
          ...withFill(piston, pistonFill, 17, 8),
          ...withFill(piston2, pistonFill, 25, 8),
          ...withFill(piston, pistonFill, 41, 4),
          ...withFill(piston2, pistonFill, 45, 8),
        ]),
        track('Tops', 0, -8, -0.15, [
          clip(pistonTops, 13, 4),
          clip(pistonTops, 37, 4, { fadeInBeats: 8 }),
          clip(pistonTops, 53, 4, { fadeOutBeats: 16 }),
        ]),
        track('Shaker', 1, -10, 0.3, [clip(shaker, 5, 28), clip(shaker, 41, 16)]),
        // Turned by a beat: its accent on 2 and 4.
        track('Tambourine', 1, -12, -0.35, [clip(tambourine, 25, 8, { offsetBeats: 1 }), clip(tambourine, 45, 8, { offsetBeats: 1 })]),
        track('Conga', 1, -14, 0.2, [clip(conga, 9, 2), clip(conga, 13, 2), clip(conga, 33, 8)]),
        track('Bass', 2, -5, 0, [clip(engineBass, 13, 4), clip(engineBass, 17, 16), clip(engineBass, 41, 12)]),
        track('Sub', 2, -17, 0, [clip(engineSub, 33, 8), clip(engineSub, 53, 8, { fadeOutBeats: 24 })]),
        track('Tines', 3, -8, -0.2, [
          clip(tines, 1, 32, { fadeInBeats: 8 }),
          clip(tines, 33, 8),
          clip(tines, 41, 20, { fadeOutBeats: 16 }),
        ]),
        track('Flute', 4, -13, 0.25, [clip(flute, 33, 8), clip(flute, 49, 4)]),
        track('Brass', 4, -9, 0.15, [clip(stabs, 21, 4), clip(stabs, 29, 4), clip(stabs, 45, 4), clip(stabs, 49, 4)]),
        track('Lines', 5, -10, 0, [
          landing(riser4, 17, 12, 1),
          landing(impact, 17, 0, 6),
          landing(riser3, 41, 10, 1),
          landing(impact, 41, 0, 6),
          landing(impact, 53, 0, 6),
        ]),
      ],
    },
    {
      ...ferry,
      masterGainDb: -3,
      sections: [
        section('Quay', 1, 8),
        section('Cast off', 9, 8),
        section('Open water', 17, 16),
        section('Fog', 33, 4),
        section('Lights', 37, 12),
      ],
      chords: chords(['Fm', 'D♭', 'A♭', 'E♭'], 1, 48),
      tracks: [
        track('Drums', 0, -4, 0, [
          ...withFill(lantern, lanternFill, 13, 4),
          ...withFill(lantern, lanternFill, 17, 8),
          ...withFill(lantern2, lanternFill, 25, 8),
          ...withFill(lantern, lanternFill, 37, 8),
        ]),
        track('Tops', 0, -9, 0.2, [clip(lanternTops, 9, 4)]),
        track('Shaker', 1, -11, 0.35, [clip(shaker96, 17, 16), clip(shaker96, 37, 8)]),
        track('Bass', 2, -5, 0, [clip(ferryBass, 9, 24), clip(ferryBass, 37, 8)]),
        track('Piano', 3, -7, -0.1, [clip(piano, 1, 32, { fadeInBeats: 4 }), clip(piano, 37, 12, { fadeOutBeats: 12 })]),
        track('Strings', 4, -10, 0.1, [clip(strings, 25, 12, { fadeInBeats: 8 }), clip(strings, 37, 12, { fadeOutBeats: 16 })]),
        track('Pad', 4, -12, -0.2, [clip(pad, 5, 12, { fadeInBeats: 16 }), clip(pad, 33, 4)]),
        track('Nylon', 5, -9, 0.35, [clip(nylon, 17, 8), clip(nylon, 41, 4)]),
        // A fifth lower in the fog.
        track('Voice', 5, -11, -0.3, [clip(hum, 29, 4), clip(hum, 33, 4, { shiftSemitones: -7, fadeOutBeats: 8 })]),
        track('Lines', 5, -11, 0, [
          landing(riser4, 17, 10, 1),
          landing(impact, 17, 0, 5),
          landing(riser3, 37, 8, 1),
          landing(impact, 37, 0, 5),
        ]),
      ],
    },
  ];
}
