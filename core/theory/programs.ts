import { playedAs } from './instruments';

/**
 * Our instruments by the programs of General MIDI (level 1, MIDI Association RP-003), counted from 0. What General MIDI has and we tell apart
 * no further goes to the nearest.
 */
const programsOf: Readonly<Record<string, readonly number[]>> = {
  piano: [0, 1, 2, 3],
  'electric-piano': [4, 5],
  harpsichord: [6],
  clavinet: [7],
  celesta: [8],
  glockenspiel: [9],
  'music-box': [10],
  vibraphone: [11],
  marimba: [12],
  xylophone: [13],
  'tubular-bells': [14],
  dulcimer: [15],
  organ: [16, 17, 18, 19, 20],
  accordion: [21, 23],
  harmonica: [22],
  'acoustic-guitar': [24, 25],
  'electric-guitar': [26, 27, 28, 29, 30, 31],
  'upright-bass': [32],
  'electric-bass': [33, 34, 35, 36, 37],
  'synth-bass': [38, 39],
  violin: [40, 110],
  viola: [41],
  cello: [42, 43],
  strings: [44, 48, 49, 55],
  pizzicato: [45],
  harp: [46],
  timpani: [47],
  choir: [52],
  voice: [53, 54],
  trumpet: [56, 59],
  trombones: [57],
  tuba: [58],
  'french-horn': [60],
  brass: [61, 62, 63],
  sax: [64, 65, 66, 67],
  oboe: [68, 69],
  bassoon: [70],
  clarinets: [71],
  flute: [72, 73, 76],
  recorder: [74],
  'pan-flute': [75],
  shakuhachi: [77],
  whistle: [78],
  ocarina: [79],
  'synth-lead': [80, 81, 82, 83, 84, 85, 86, 87],
  'synth-pad': [50, 51, 88, 89, 90, 91, 92, 93, 94, 95],
  texture: [96, 97, 98, 99, 100, 101, 102, 103, 120, 121, 124, 125, 126, 127],
  ambience: [122, 123],
  sitar: [104],
  banjos: [105],
  koto: [106, 107],
  kalimba: [108],
  bagpipe: [109],
  clarinet: [111],
  bells: [112],
  agogo: [113],
  'steel-pan': [114],
  'wood-block': [115],
  conga: [116],
  toms: [117, 118],
  riser: [119],
};

const byProgram = new Map(Object.entries(programsOf).flatMap(([id, programs]) => programs.map((program) => [program, id] as const)));

/** The program by which a MIDI file asks for an instrument; null where General MIDI has none. */
export const programOfInstrument = (id: string): number | null => programsOf[playedAs(id) ?? id]?.[0] ?? null;

/** The instrument that a program of a MIDI file stands for, `program` 0 to 127; null beyond. */
export const instrumentOfProgram = (program: number): string | null => byProgram.get(program) ?? null;
