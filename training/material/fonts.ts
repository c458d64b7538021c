import { execFileSync } from 'node:child_process';
import { readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseWav } from '../../core/formats/wav/parse';
import type { Chance } from './chance';
import type { Part } from './piece';

/**
 * Debian's sound fonts. General MIDI: Fluid and MuseScore General (MIT), OPL-3 (CC-BY-SA), sf_GMbank (public domain); TimGM6mb (GPL) is only
 * measured with. Recorded kits: Black Pearl and Red Zeppelin (CC-BY-SA).
 */
export const fonts: Readonly<Record<string, string>> = {
  fluid: '/usr/share/sounds/sf2/FluidR3_GM.sf2',
  musescore: '/usr/share/sounds/sf3/MuseScore_General.sf3',
  timgm: '/usr/share/sounds/sf2/TimGM6mb.sf2',
  opl3: '/usr/share/sounds/sf2/OPL-3_FM_128M.sf2',
  gmbank: '/usr/share/sounds/sf2/sf_GMbank.sf2',
  blackpearl: '/usr/share/sounds/sf2/Black_Pearl_4_LV2.sf2',
  redzeppelin: '/usr/share/sounds/sf2/Red_Zeppelin_4_LV2.sf2',
};
/** Fonts that hold a drum kit and nothing else, and the keys that sound in them. */
export const kitFonts: readonly string[] = ['blackpearl', 'redzeppelin'];
export const kitFontKeys: readonly number[] = Array.from({ length: 26 }, (_, k) => 36 + k);

/** General MIDI programs (RP-003, counted from 0) of our instruments. */
export const programs: Readonly<Record<string, readonly number[]>> = {
  piano: [0, 1, 2, 3],
  'electric-piano': [4, 5],
  harpsichord: [6],
  clavinet: [7],
  bells: [8, 9, 10, 11, 14, 114],
  marimba: [12, 13],
  kalimba: [108],
  organ: [16, 17, 18, 19],
  accordion: [21, 23],
  'acoustic-guitar': [24, 25],
  'electric-guitar': [26, 27, 28, 29, 30],
  banjo: [105, 106, 107, 15],
  'upright-bass': [32],
  'electric-bass': [33, 34, 35, 36, 37],
  'synth-bass': [38, 39],
  violin: [40, 41],
  cello: [42, 43],
  strings: [44, 48, 49],
  pizzicato: [45],
  harp: [46],
  choir: [52, 53],
  voice: [53, 54, 85],
  trumpet: [56, 59],
  trombone: [57, 58],
  brass: [60, 61, 62, 63],
  sax: [64, 65, 66, 67],
  clarinet: [68, 69, 70, 71],
  flute: [72, 73, 74, 75, 77, 78, 79],
  'synth-lead': [80, 81, 82, 84, 86, 87],
  'synth-pluck': [81, 84, 38],
  'synth-pad': [88, 89, 90, 91, 92, 93, 94, 95, 50, 51],
};
const kits = [0, 8, 16, 24, 25, 40];

/** A piece's parts to be rendered by a font: times in seconds, tuned by `cents`. */
export interface FontJob {
  readonly parts: readonly Part[];
  readonly quarterSeconds: number;
  readonly seconds: number;
  readonly cents: number;
  /** Other specimens of the font's instruments, see `specimen`. */
  readonly varied: boolean;
  readonly chance: Chance;
}

/** Generators of a sound font's voices (SoundFont 2.04, 8.1.3) and how far a part may move them from what the font says. */
const generators = { vibratoToPitch: 6, filterCutoff: 8, volumeAttack: 34, volumeDecay: 36, volumeRelease: 38 } as const;

/** Control changes that move one generator by `amount` of its units (NRPN; SoundFont 2.04, 9.6). */
function moveGenerator(generator: number, amount: number, unitsAStep: number): number[][] {
  const data = Math.max(0, Math.min(16383, 8192 + Math.round(amount / unitsAStep)));
  return [
    [99, 120],
    [98, generator],
    [38, data & 127],
    [6, data >> 7],
  ];
}

/** Another specimen of the instrument: duller or slower, shorter or longer than the font's own. Every second part is left as it is. */
function specimen(chance: Chance): number[][] {
  const changed = chance.yes(0.5);
  return [
    ...moveGenerator(generators.filterCutoff, changed && chance.yes(0.7) ? -chance.between(0, 4200) : 0, 2),
    ...moveGenerator(generators.volumeAttack, changed && chance.yes(0.4) ? chance.between(0, 3500) : 0, 2),
    ...moveGenerator(generators.volumeDecay, changed && chance.yes(0.4) ? chance.between(-1200, 900) : 0, 2),
    ...moveGenerator(generators.volumeRelease, changed && chance.yes(0.5) ? chance.between(-1500, 1500) : 0, 2),
    ...moveGenerator(generators.vibratoToPitch, changed && chance.yes(0.25) ? chance.between(5, 30) : 0, 1),
  ];
}

const ticksPerSecond = 9600;
const guardSeconds = 0.5;

/** Many jobs as one MIDI file, one after the other, so that a font is loaded once. Returns planes for each job. */
export function renderWithFont(font: string, jobs: readonly FontJob[], folder: string, rateHz: number): [Float32Array, Float32Array][] {
  const events: [tick: number, order: number, bytes: number[]][] = [];
  const starts: number[] = [];
  let at = 0.1;
  for (const job of jobs) {
    starts.push(at);
    const put = (seconds: number, order: number, bytes: number[]) => events.push([Math.round(seconds * ticksPerSecond), order, bytes]);
    for (let channel = 0; channel < 16; channel++) put(at - 0.05, 0, [0xb0 | channel, 120, 0]);
    let melodic = 0;
    for (const part of job.parts) {
      const drum = part.notes[0]?.channel === 9,
        // A font that is one kit has it where others have a piano.
        kit = kitFonts.includes(font),
        channel = drum && !kit ? 9 : melodic++ + (melodic > 9 ? 1 : 0);
      put(at - 0.04, 1, [0xc0 | channel, kit ? 0 : drum ? job.chance.pick(kits) : job.chance.pick(programs[part.instrument] ?? [0])]);
      if (job.varied) specimen(job.chance).forEach((change, k) => put(at - 0.036 + k * 0.0002, 2, [0xb0 | channel, ...change]));
      put(at - 0.03, 2, [0xb0 | channel, 7, Math.round(100 * Math.sqrt(part.gain))]);
      put(at - 0.03, 2, [0xb0 | channel, 10, drum ? 64 : job.chance.whole(40, 88)]);
      const bend = drum ? 8192 : Math.round(8192 + (8191 * job.cents) / 200);
      put(at - 0.03, 2, [0xe0 | channel, bend & 127, bend >> 7]);
      for (const note of part.notes) {
        const start = at + note.startBeat * job.quarterSeconds;
        put(start, 4, [0x90 | channel, note.pitch, note.velocity]);
        put(start + Math.max(0.03, note.lengthBeats * job.quarterSeconds), 3, [0x80 | channel, note.pitch, 0]);
      }
    }
    at += job.seconds + guardSeconds;
  }
  events.sort((a, b) => a[0] - b[0] || a[1] - b[1]);
  const track: number[] = [0, 0xff, 0x51, 3, 0x0f, 0x42, 0x40];
  let last = 0;
  for (const [tick, , bytes] of events) {
    track.push(...variableLength(tick - last), ...bytes);
    last = tick;
  }
  track.push(...variableLength(Math.round(at * ticksPerSecond) - last), 0xff, 0x2f, 0);
  const word = (value: number, size: number) => Array.from({ length: size }, (_, k) => (value >> (8 * (size - 1 - k))) & 255);
  const midi = join(folder, 'batch.mid'),
    wav = join(folder, 'batch.wav');
  writeFileSync(
    midi,
    Buffer.from([
      0x4d,
      0x54,
      0x68,
      0x64,
      ...word(6, 4),
      ...word(0, 2),
      ...word(1, 2),
      ...word(ticksPerSecond, 2),
      0x4d,
      0x54,
      0x72,
      0x6b,
      ...word(track.length, 4),
      ...track,
    ]),
  );
  execFileSync(
    'fluidsynth',
    [
      '-ni',
      '-q',
      '-R',
      '0',
      '-C',
      '0',
      '-o',
      'synth.dynamic-sample-loading=1',
      '-o',
      'synth.polyphony=96',
      '-g',
      '0.35',
      '-r',
      String(rateHz),
      '-O',
      's24',
      '-T',
      'wav',
      '-F',
      wav,
      fonts[font],
      midi,
    ],
    { stdio: 'ignore' },
  );
  const { channels } = parseWav(new Uint8Array(readFileSync(wav)));
  rmSync(wav);
  rmSync(midi);
  return jobs.map((job, k) => {
    const from = Math.round(starts[k] * rateHz),
      to = from + Math.round(job.seconds * rateHz);
    return [channels[0].slice(from, to), channels[1].slice(from, to)];
  });
}

function variableLength(value: number): number[] {
  const bytes = [value & 127];
  for (let rest = value >> 7; rest > 0; rest >>= 7) bytes.unshift((rest & 127) | 128);
  return bytes;
}
