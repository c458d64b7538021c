import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync, symlinkSync } from 'node:fs';
import { basename, dirname, extname, join, resolve } from 'node:path';
import { hearingSpeed, renewalShares } from './bench-speed';
import { score, shownFacts, type Said, type Scores } from './score';
import { benchLong } from './bench-long';
import { breakdown, tempoMistakes } from './breakdown';
import type { Truth } from './truth';

/*
 * bench.ts [--set FOLDER]… [--count N]: our detector on sets with truth, sound only and with names, next to aubio, bpm-tools and the
 * rule of length on the same files in the same run. Without --set our own sets of unseen sources are made (a font that nothing was trained on), one of them in odd bars.
 */
const folders: string[] = [];
let count = 200;
for (let k = 2; k < process.argv.length; k += 2) {
  if (process.argv[k] === '--set') folders.push(resolve(process.env.INIT_CWD ?? '.', process.argv[k + 1]));
  else if (process.argv[k] === '--count') count = Number(process.argv[k + 1]);
}
/** Our own sets of sources that nothing was trained on, the second in bars of five and seven. */
const own = [
  { folder: '.data/training/unseen', files: count, options: ['--seed', '4711'] },
  { folder: '.data/training/unseen-odd', files: Math.ceil(count / 2), options: ['--seed', '4712', '--hits', '0.02', '--odd', 'yes'] },
];
if (!folders.length)
  for (const { folder, files, options } of own) {
    if (!existsSync(join(folder, 'truth.json')))
      execFileSync(
        process.execPath,
        [
          ...['--import', 'tsx', 'training/make-material.ts', '--out', folder, '--count', String(files)],
          ...['--fonts', 'timgm', '--sources', 'font', ...options],
        ],
        { stdio: 'inherit' },
      );
    folders.push(resolve(folder));
  }

const has = (command: string): boolean => spawnSync('which', [command]).status === 0;

/** CPU seconds of a child, from the shell's own clock. */
function timed(command: string, args: readonly string[], input?: Buffer): { out: string; cpuSeconds: number } {
  const before = children();
  const result = spawnSync(command, args, { input, encoding: 'utf8', maxBuffer: 1 << 28 });
  return { out: result.stdout ?? '', cpuSeconds: children() - before };
}

/** CPU time of all children so far (Linux: fields 16 and 17 of /proc/self/stat, in hundredths). */
function children(): number {
  const fields = readFileSync('/proc/self/stat', 'utf8')
    .replace(/^.*\) /, '')
    .split(' ');
  return (Number(fields[13]) + Number(fields[14])) / 100;
}

function analyse(folder: string, audioOnly: boolean): { said: Said[]; cpuSeconds: number } {
  const { out, cpuSeconds } = timed(process.execPath, [
    'build-tools/analyze.mjs',
    ...(audioOnly ? ['--audio-only'] : []),
    '--json',
    folder,
  ]);
  return {
    said: out
      .split('\n')
      .filter(Boolean)
      .map((line) => JSON.parse(line) as Said),
    cpuSeconds,
  };
}

/** The files under the names and folders that a vendor would give them. */
function named(folder: string, truths: readonly Truth[]): { folder: string; names: Map<string, string> } {
  const to = join(dirname(folder), `${basename(folder)}-named`),
    names = new Map<string, string>();
  rmSync(to, { recursive: true, force: true });
  truths.forEach((truth, k) => {
    // Equal names of different files are kept apart by a folder that says nothing.
    const path = join(
        truth.packPath || 'Loops',
        `${'abcdefgh'[k % 8]}${'xyz'[k % 3]}`,
        `${truth.packName || 'untitled'}${extname(truth.file)}`,
      ),
      unique = [...names.keys()].includes(path) ? path.replace(/(\.\w+)$/, ` ${'i'.repeat((k % 7) + 1)}$1`) : path;
    mkdirSync(dirname(join(to, unique)), { recursive: true });
    if (existsSync(join(to, unique))) return;
    symlinkSync(resolve(folder, truth.file), join(to, unique));
    names.set(unique, truth.file);
  });
  return { folder: to, names };
}

const barTempo = (seconds: number): { tempoBpm: number; bars: number } =>
  [1, 2, 3, 4, 6, 8, 12, 16]
    .map((bars) => ({ bars, tempoBpm: (bars * 240) / seconds }))
    .reduce((best, each) => (Math.abs(Math.log(each.tempoBpm / 120)) < Math.abs(Math.log(best.tempoBpm / 120)) ? each : best));

const barsAt = (tempoBpm: number, seconds: number): number => Math.max(1, Math.round((seconds * tempoBpm) / 240));

function reference(folder: string, truths: readonly Truth[], tempoOf: (path: string) => number | null): Said[] {
  return truths.map((truth) => {
    const tempoBpm = tempoOf(join(folder, truth.file));
    return { file: truth.file, tempoBpm, bars: tempoBpm ? barsAt(tempoBpm, truth.lengthSec) : null };
  });
}

const columns: readonly (readonly [string, (scores: Scores) => number | null, digits?: number])[] = [
  ['±0.5 %', (s) => s.tempoExact],
  ['Acc1', (s) => s.accuracy1],
  ['Acc2', (s) => s.accuracy2],
  ['bars', (s) => s.bars],
  ['meter', (s) => s.meter],
  ['key', (s) => s.keyExact],
  ['key w.', (s) => s.keyWeighted],
  ['pitch F1', (s) => s.pitchedF1],
  ['family', (s) => s.family],
  ['instr.', (s) => s.instrument],
  ['loop?', (s) => s.isLoop],
  ['1 ±10 ms', (s) => s.downbeat],
  ['chords', (s) => s.chords],
  ['notes F1', (s) => s.melody],
  ['voice +', (s) => s.melodyFound],
  ['voice −', (s) => s.melodyFalse],
];
const line = (title: string, cells: readonly string[]): void =>
  console.log(`${title.padEnd(24)}${cells.map((cell, k) => cell.padStart(Math.max(9, columns[k]?.[0].length + 2 || 9))).join('')}`);

console.log('notes F1: of loops read as one voice; voice +: how many of those of one voice were; voice −: how many of all others were');
for (const folder of folders) {
  const { files: truths } = JSON.parse(readFileSync(join(folder, 'truth.json'), 'utf8')) as { files: Truth[] },
    audioSeconds = truths.reduce((sum, truth) => sum + (truth.lengthSec || 0), 0);
  console.log(`\n${folder}: ${truths.length} files, ${Math.round(audioSeconds)} s of sound`);
  line('', [...columns.map(([name]) => name), '× real time']);
  const sure: [title: string, Scores][] = [];
  const show = (title: string, said: readonly Said[], cpuSeconds: number | null) => {
    const scores = score(truths, said);
    if (title.startsWith('ours')) sure.push([title, scores]);
    line(title, [
      ...columns.map(([, read, digits = 1]) => read(scores)?.toFixed(digits) ?? '–'),
      cpuSeconds ? (audioSeconds / cpuSeconds).toFixed(0) : '–',
    ]);
  };
  const sound = analyse(folder, true);
  show('ours, sound only', sound.said, sound.cpuSeconds);
  const errors = [...tempoMistakes(truths, sound.said)].map(([what, count]) => `${what} ${count}`).join(', ');
  const slices = breakdown(truths, sound.said).filter(
    ({ tempo, key, family }) => (tempo ?? 100) < 85 || (key ?? 100) < 70 || (family ?? 100) < 80,
  );
  const { folder: withNames, names } = named(folder, truths),
    full = analyse(withNames, false);
  show(
    'ours, with names',
    full.said.map((each) => ({ ...each, file: names.get(each.file) ?? each.file })),
    full.cpuSeconds,
  );
  show(
    'length only, near 120',
    truths.map((truth) => ({ file: truth.file, ...barTempo(truth.lengthSec || 1) })),
    null,
  );
  if (has('aubio') && has('ffmpeg')) {
    let cpu = 0;
    show(
      'aubio tempo',
      reference(folder, truths, (path) => {
        const { out, cpuSeconds } = timed('aubio', ['tempo', path]);
        cpu += cpuSeconds;
        const value = Number.parseFloat(out);
        return value > 0 ? value : null;
      }),
      cpu || null,
    );
    console.log(`${''.padEnd(24)}(aubio’s CPU: ${(audioSeconds / Math.max(0.01, cpu)).toFixed(0)} × real time, its script and all)`);
    if (has('aubiotrack')) {
      // The compiled tool starts at once: what the library itself costs.
      const bare = truths.reduce((sum, truth) => sum + timed('aubiotrack', ['-i', join(folder, truth.file)]).cpuSeconds, 0);
      console.log(`${''.padEnd(24)}(aubiotrack’s CPU: ${(audioSeconds / Math.max(0.01, bare)).toFixed(0)} × real time)`);
    }
  } else console.log('aubio is not here: apt-get install aubio-tools');
  const speed = await hearingSpeed(folder, truths);
  if (speed)
    console.log(
      `${''.padEnd(24)}(ours, hearing alone: ${speed.timesRealTime.toFixed(0)} × real time of CPU, one thread, ${speed.files} stereo loops of 44.1 kHz in memory; the column counts starting, reading, decoding and resampling too)`,
    );
  const renewals = await renewalShares(folder, truths);
  console.log(
    `${''.padEnd(24)}(hearing again after a change, CPU of hearing all = 100: ${renewals.map(({ changed, heard, share }) => `${changed} ${(100 * share).toFixed(0)}${heard.length > 1 ? `, with ${heard.length - 1} more` : ''}`).join('; ')})`,
  );
  if (has('bpm') && has('ffmpeg')) {
    let cpu = 0;
    show(
      'bpm-tools',
      reference(folder, truths, (path) => {
        const raw = spawnSync('ffmpeg', ['-v', 'error', '-i', path, '-f', 'f32le', '-ac', '1', '-ar', '44100', '-'], {
            maxBuffer: 1 << 28,
          }).stdout,
          { out, cpuSeconds } = timed('bpm', [], raw);
        cpu += cpuSeconds;
        const value = Number.parseFloat(out);
        return value > 0 ? value : null;
      }),
      null,
    );
    console.log(`${''.padEnd(24)}(bpm-tools’ CPU: ${(audioSeconds / Math.max(0.01, cpu)).toFixed(0)} × real time)`);
  } else console.log('bpm-tools is not here: apt-get install bpm-tools');
  console.log(
    '\nHow sure what is shown is (ECE, by pure chance as much as behind the stroke; percent wrong of what is said with 0.9 and above):',
  );
  console.log(''.padEnd(24) + shownFacts.map((fact) => fact.padStart(20)).join(''));
  for (const [title, { calibration }] of sure)
    console.log(
      title.padEnd(24) +
        shownFacts
          .map((fact) => {
            const found = calibration[fact];
            return (
              found ? `${found.ece.toFixed(3)} / ${found.eceByChance.toFixed(3)}; ${found.wrongAtNinety?.toFixed(1) ?? '–'}` : '–'
            ).padStart(20);
          })
          .join(''),
    );
  console.log(`\nfrom sound alone, wrong tempos: ${errors || 'none'}; the weak places (right in %: tempo, key, family):`);
  for (const { name, files, tempo, key, family } of slices)
    console.log(
      `  ${name.padEnd(20)}${String(files).padStart(4)} files${[tempo, key, family].map((value) => (value?.toFixed(0) ?? '–').padStart(6)).join('')}`,
    );
}

console.log('\nMemory of the analysing process, all its threads:');
await benchLong(
  '.data/training',
  join(folders[0], (JSON.parse(readFileSync(join(folders[0], 'truth.json'), 'utf8')) as { files: Truth[] }).files[0].file),
);
