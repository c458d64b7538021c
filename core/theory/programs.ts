/**
 * Our instruments by the programs of General MIDI (level 1, MIDI Association RP-003), counted from 0. What General MIDI has and we tell apart
 * no further goes to the nearest.
 */
const programsOf: Readonly<Record<string, readonly number[]>> = {
  piano: [0, 1, 2, 3],
  'electric-piano': [4, 5],
  harpsichord: [6],
  clavinet: [7],
  bells: [8, 9, 10, 11, 14, 112, 114],
  marimba: [12, 13],
  kalimba: [108],
  organ: [16, 17, 18, 19, 20],
  accordion: [21, 22, 23],
  'acoustic-guitar': [24, 25],
  'electric-guitar': [26, 27, 28, 29, 30, 31],
  banjo: [15, 104, 105, 106, 107],
  'upright-bass': [32],
  'electric-bass': [33, 34, 35, 36, 37],
  'synth-bass': [38, 39],
  violin: [40, 41, 110],
  cello: [42, 43],
  strings: [44, 48, 49, 55],
  pizzicato: [45],
  harp: [46],
  choir: [52],
  voice: [53, 54],
  trumpet: [56, 59],
  trombone: [57, 58],
  brass: [60, 61, 62, 63],
  sax: [64, 65, 66, 67],
  clarinet: [68, 69, 70, 71, 109, 111],
  flute: [72, 73, 74, 75, 76, 77, 78, 79],
  'synth-lead': [80, 81, 82, 83, 84, 85, 86, 87],
  'synth-pad': [50, 51, 88, 89, 90, 91, 92, 93, 94, 95],
  texture: [96, 97, 98, 99, 100, 101, 102, 103, 120, 121, 122, 123, 124, 125, 126, 127],
  toms: [47, 117, 118],
  woodblock: [113, 115],
  conga: [116],
  riser: [119],
};

const byProgram = new Map(Object.entries(programsOf).flatMap(([id, programs]) => programs.map((program) => [program, id] as const)));

/** The program by which a MIDI file asks for an instrument; null where General MIDI has none. */
export const programOfInstrument = (id: string): number | null => programsOf[id]?.[0] ?? null;

/** The instrument that a program of a MIDI file stands for, `program` 0 to 127; null beyond. */
export const instrumentOfProgram = (program: number): string | null => byProgram.get(program) ?? null;
