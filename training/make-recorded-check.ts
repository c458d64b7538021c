import { copyFileSync, existsSync, mkdirSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { instrumentById } from '../core/theory/instruments';
import type { Truth } from './truth';

/*
 * make-recorded-check.ts FOLDER: recorded hits and breaks under CC0 (Debian's sonic-pi-samples) as a set with truth. Only to measure with:
 * nothing is trained on it. What an ear could file under two families is left out.
 */
const source = '/usr/share/sonic-pi/samples',
  out = process.argv[2];
const hits: readonly (readonly [RegExp, string])[] = [
  [/^bd_|^drum_(heavy_kick|bass)|^elec_(hollow|soft)_kick/, 'kick'],
  [/^sn_|^drum_snare|^elec_(hi_|lo_|mid_|filt_)?snare/, 'snare'],
  [/^drum_(cymbal|splash)|^elec_cymbal/, 'hats'],
  [/^drum_tom|^elec_fuzz_tom/, 'toms'],
  [/^drum_cowbell|^elec_(triangle|wood)|^perc_bell/, 'woodblock'],
  [/^tabla_/, 'conga'],
  [/^glitch_perc/, 'percussion'],
  [/^bass_/, 'synth-bass'],
  [/^guit_/, 'electric-guitar'],
  [/^ambi_choir/, 'choir'],
  [/^perc_impact|^misc_cineboom/, 'impact'],
  [/^ambi_(dark_woosh|swoosh)|^perc_(swash|swoosh)/, 'riser'],
  [/^vinyl_|^ambi_(sauna|lunar_land|haunted_hum)/, 'texture'],
  [/^ambi_(drone|soft_buzz)/, 'synth-pad'],
];
/** Breaks and loops with the number of 4/4 bars they hold, counted from the sound. */
const loops: Readonly<Record<string, readonly [bars: number, instrument: string]>> = {
  loop_amen: [1, 'kit'],
  loop_amen_full: [4, 'kit'],
  loop_breakbeat: [1, 'kit'],
  loop_compus: [4, 'kit'],
  loop_industrial: [1, 'kit'],
  loop_mika: [4, 'kit'],
  loop_tabla: [8, 'conga'],
};
if (!existsSync(source)) throw new Error('Debian’s sonic-pi-samples is not here: apt-get install sonic-pi-samples');
mkdirSync(out, { recursive: true });
const files: Partial<Truth>[] = [];
for (const file of readdirSync(source).sort()) {
  const name = file.replace(/\.flac$/, ''),
    loop = loops[name],
    instrument = loop?.[1] ?? hits.find(([pattern]) => pattern.test(name))?.[1],
    family = instrument ? instrumentById(instrument)?.family : undefined;
  if (!instrument || !family) continue;
  copyFileSync(join(source, file), join(out, file));
  files.push({
    file,
    style: loop ? 'break' : 'recorded-hit',
    family,
    instrument,
    isLoop: Boolean(loop),
    tempo: null,
    tempoScored: false,
    bars: loop?.[0] ?? null,
    beats: loop ? loop[0] * 4 : null,
    meter: loop ? '4/4' : null,
    key: null,
    keyStatus: ['bass', 'guitar', 'voice', 'synth-pad'].includes(family) ? 'tonicOnly' : 'atonal',
    tuningCents: 0,
    leadSec: 0,
    cond: ['src:recorded'],
    packName: name,
    packPath: '',
  });
}
writeFileSync(join(out, 'truth.json'), JSON.stringify({ files }));
console.log(`${files.length} files`);
