import { existsSync, readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { decodeFile, toProjectRate } from '../../server/jobs/pool/decode';
import { toMono } from '../../core/dsp/spectrogram';

/** A recorded sound and what it is; `note` for pitched ones. */
export interface Recorded {
  readonly instrument: string;
  readonly note: number | null;
  readonly file: string;
}

/** Debian's hydrogen-drumkits: only the kits under CC0, CC-BY and CC-BY-SA. */
const kitRoot = '/usr/share/hydrogen/data/drumkits';
const words: readonly (readonly [RegExp, string])[] = [
  [/^(bd|bassdrum|kick)/i, 'kick'],
  [/^(sd|snare|sr_|rs_|stick)|snare/i, 'snare'],
  [/clap/i, 'clap'],
  [/^(hh|hihat|ho_|hat|rd|rc_|ride|cr|cc_|crash|china|splash)|hhat|hat-light|ride|crash|cymbal/i, 'hats'],
  [/^(t[123]_|tom|ft_|floortom)|tom/i, 'toms'],
  [/djembe|dununba1 head|kenkeni1 head|sangban1 head|bongo|conga/i, 'conga'],
  [/ bell|^cb|cowbell|^bl_|agogo/i, 'woodblock'],
  [/shak/i, 'shaker'],
];

export function recordedHits(): Recorded[] {
  return ['Audiophob', 'BJA_Pacific', 'circAfrique v4', 'rumpf_kit_z01_h2']
    .filter((kit) => existsSync(join(kitRoot, kit)))
    .flatMap((kit) =>
      readdirSync(join(kitRoot, kit))
        .filter((name) => /\.(wav|aiff|flac)$/i.test(name))
        .flatMap((name) => {
          const found = words.find(([pattern]) => pattern.test(name));
          return found ? [{ instrument: found[1], note: null, file: join(kitRoot, kit, name) }] : [];
        }),
    );
}

/** Packages of single recorded notes (MIT), unpacked below `folder` by `training/fetch-samples.mjs`. */
const packages: Readonly<Record<string, string>> = {
  'bass-electric': 'electric-bass',
  bassoon: 'clarinet',
  cello: 'cello',
  clarinet: 'clarinet',
  contrabass: 'cello',
  flute: 'flute',
  'french-horn': 'brass',
  'guitar-acoustic': 'acoustic-guitar',
  'guitar-electric': 'electric-guitar',
  'guitar-nylon': 'acoustic-guitar',
  harmonium: 'accordion',
  harp: 'harp',
  organ: 'organ',
  piano: 'piano',
  saxophone: 'sax',
  trombone: 'trombone',
  trumpet: 'trumpet',
  tuba: 'trombone',
  violin: 'violin',
  xylophone: 'marimba',
};
export const notePackages = Object.keys(packages);

const letters: Readonly<Record<string, number>> = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 };

export function recordedNotes(folder: string): Recorded[] {
  return notePackages.flatMap((name) => {
    const dir = join(folder, name);
    if (!existsSync(dir)) return [];
    return readdirSync(dir, { recursive: true, encoding: 'utf8' }).flatMap((path) => {
      const match = /(?:^|\/)([A-G])(s|#|b)?(\d)\.mp3$/.exec(path);
      if (!match) return [];
      const note = letters[match[1]] + (match[2] === 'b' ? -1 : match[2] ? 1 : 0) + 12 * (Number(match[3]) + 1);
      return [{ instrument: packages[name], note, file: join(dir, path) }];
    });
  });
}

const kept = new Map<string, Promise<Float32Array | null>>();
/** The sound in mono at the project's rate, peak 1, without silence in front; null when it cannot be read. */
export function loadRecorded({ file }: Recorded): Promise<Float32Array | null> {
  let found = kept.get(file);
  if (!found) {
    found = decodeFile(new Uint8Array(readFileSync(file)))
      .then(({ pcm }) => {
        const mono = toMono(toProjectRate(pcm).channels);
        let peak = 1e-9;
        for (const value of mono) peak = Math.max(peak, Math.abs(value));
        const start = Math.max(0, mono.findIndex((value) => Math.abs(value) > peak * 0.02) - 40);
        return mono.slice(start, start + 44100 * 6).map((value) => value / peak);
      })
      .catch(() => null);
    kept.set(file, found);
  }
  return found;
}
