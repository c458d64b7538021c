import { loadTransforms } from '../../core/dsp/real-fft';
import { cutsOf } from '../../core/analysis/onsets/cuts';
import { onsetRises } from '../../core/analysis/onsets/onsets';
import type { StretchMode } from '../../core/stretch/stretch-modes';
import { withFaintHits } from '../../core/stretch/faint-hits';
import { fitCycle } from '../../core/stretch/fit';
import { loops, type Material } from './loops';
import { mean, median } from '../../test/measures/measures';
import { benchSanity, printSanity, type SanityRow } from './sanity-run';
import { saneFit } from './sanity';
import { haveReferences, references, runReference } from './references';
import { renderTakes, type Rendered } from './render';
import { formants, singleLine, steadyChord } from './steady';
import { engineOf, measure, tasksOf, type Row, type Task } from './tasks';

/*
 * run.ts [--material percussive,tonal,mixed,voice] [--half tuned|kept-out] [--engines percussive,apart …] [--no-references] [--only-loops]
 * [--by-loop] [--only-sanity] [--only-steady] [--sanity-step 1] [--set FOLDER]:
 * loops with exact truth through our engines and Debian's tools, in one run; and what comes out held against what went in, over all demo
 * loops (every so many-eth), made-up extremes and a set with truth in a folder.
 */
const has = (name: string): boolean => process.argv.includes(`--${name}`),
  valueOf = (name: string): string | undefined => (has(name) ? process.argv[process.argv.indexOf(`--${name}`) + 1] : undefined);

const materials = (valueOf('material') ?? 'percussive,tonal,mixed,voice').split(',') as Material[],
  halves = valueOf('half'),
  engines = valueOf('engines')?.split(',') as StretchMode[] | undefined,
  withReferences = !has('no-references') && haveReferences(),
  rateHz = 44100;
if (!has('no-references') && !withReferences)
  console.error('Without references: install Debian’s rubberband-cli and soundstretch to have them.');

await loadTransforms();
const sanityOf = () => benchSanity(Number(valueOf('sanity-step') ?? 1), valueOf('set'));
if (has('only-sanity')) {
  sanityOf();
  process.exit(0);
}
function benchSteady(): void {
  steadyChord(withReferences);
  singleLine(withReferences);
  formants(withReferences);
}
if (has('only-steady')) {
  benchSteady();
  process.exit(0);
}
const chosen = loops
    .map((spec, index) => ({ spec, index }))
    .filter(({ spec }) => materials.includes(spec.material) && (!halves || spec.keptOut === (halves === 'kept-out'))),
  tasks = chosen.flatMap(({ spec, index }) => tasksOf(spec, index));
console.error(`${chosen.length} loops, ${tasks.length} tasks`);
const sources = new Map<string, Rendered>(),
  rows: Row[] = [],
  sane: SanityRow[] = [];
(await renderTakes(chosen.map(({ spec }) => ({ spec, tempoBpm: spec.tempoBpm, shiftSemitones: 0 })))).forEach((made, k) =>
  sources.set(chosen[k].spec.name, made),
);
const truths = await renderTakes(
  tasks.map(({ spec, ratio, shiftSemitones }) => ({ spec, tempoBpm: spec.tempoBpm / ratio, shiftSemitones })),
);
/** Held against what went in, under the limits of the engine that the application would choose. */
function judge(maker: string, { spec, ratio, shiftSemitones }: Task, source: readonly Float32Array[], made: readonly Float32Array[]): void {
  const engine = engineOf[spec.material];
  sane.push({
    ...saneFit(source, made, { engine, targetFrames: made[0].length, shiftSemitones }),
    maker,
    stretchMode: engine,
    name: `${spec.name} × ${ratio}${shiftSemitones ? ` ${shiftSemitones} st` : ''}`,
  });
}
let wrongLengths = 0,
  changedCopies = 0;
for (const [k, task] of tasks.entries()) {
  const { sound } = sources.get(task.spec.name) as Rendered,
    targetFrames = truths[k].sound[0].length,
    beats = task.spec.bars * 4,
    { clearFrames, faintFrames } = cutsOf(onsetRises(sound, rateHz), sound);
  for (const engine of engines ?? [engineOf[task.spec.material]]) {
    const onsets = engine === 'percussive' ? withFaintHits(clearFrames, faintFrames, sound[0].length, beats, rateHz) : clearFrames,
      before = process.cpuUsage(),
      made = fitCycle(sound, onsets, { stretchMode: engine, targetFrames, shiftSemitones: task.shiftSemitones, beats }),
      { user, system } = process.cpuUsage(before);
    if (made.some((plane) => plane.length !== targetFrames)) wrongLengths++;
    rows.push(measure(task, engine, made, truths[k], (user + system) / 1e6));
    judge(engine, task, sound, made);
    const copy = fitCycle(sound, onsets, { stretchMode: engine, targetFrames: sound[0].length, shiftSemitones: 0 });
    if (copy.some((plane, channel) => plane.some((value, i) => value !== sound[channel][i]))) changedCopies++;
  }
  if (withReferences)
    for (const reference of references) {
      const made = runReference(reference, sound, targetFrames, task.shiftSemitones);
      rows.push(measure(task, reference.name, made.sound, truths[k], made.cpuSeconds));
      judge(reference.name, task, sound, made.sound);
    }
  if (k % 20 === 19) console.error(`${k + 1} of ${tasks.length}`);
}

const makers = [...new Set(rows.map((row) => row.maker))],
  isOurs = (maker: string): boolean => !references.some(({ name }) => name === maker),
  cell = (value: number, digits: number): string => (Number.isFinite(value) ? value.toFixed(digits) : '–').padStart(9);

function line(maker: string, of: readonly Row[]): void {
  const raw = of.flatMap((row) => row.hitErrorsMs),
    // A tool that is late by a constant gets that back.
    offset = isOurs(maker) ? 0 : median(raw),
    errors = raw.map((value) => Math.abs(value - offset)).sort((a, b) => a - b);
  console.log(
    `  ${maker}`.padEnd(18),
    cell((errors.filter((value) => value <= 1).length / errors.length) * 100, 1),
    cell(median(errors), 2),
    cell(errors[Math.floor(errors.length * 0.95)] ?? NaN, 2),
    cell(mean(of.map((row) => row.attackExcessMs).filter(Number.isFinite)), 2),
    cell(mean(of.map((row) => row.preEchoExcessDb).filter(Number.isFinite)), 1),
    cell(mean(of.map((row) => row.distanceDb)), 2),
    cell(Math.max(...of.map((row) => row.seamDb)), 1),
    cell(of.reduce((sum, row) => sum + row.seconds, 0) / of.reduce((sum, row) => sum + row.cpuSeconds, 0), 1),
    cell(errors.length, 0),
  );
}

/** Loops whose hits lie more than a millisecond off, the worst first: how many of how many, and by how much. */
function lateHitsByLoop(of: readonly Row[]): void {
  const late = (row: Row) => row.hitErrorsMs.filter((value) => Math.abs(value) > 1);
  for (const row of [...of].sort((a, b) => late(b).length - late(a).length))
    if (late(row).length)
      console.log(
        `      ${row.task.spec.name} × ${row.task.ratio}${row.task.shiftSemitones ? ` ${row.task.shiftSemitones} st` : ''}: ${late(row).length} of ${row.hitErrorsMs.length}: ${late(
          row,
        )
          .map((value) => value.toFixed(1))
          .join(' ')}`,
      );
}

console.log(
  'Against the same notes played at the target: hits within 1 ms (%), median and 95th percentile (ms), attack and pre-echo more than',
);
console.log('the truth’s (ms, dB), spectral distance (dB), worst seam (dB, above 0 is a click), × real time of CPU, audible hits.');
for (const material of materials)
  for (const keptOut of [false, true])
    for (const kind of ['mild', 'far', 'shift'] as const) {
      const part = rows.filter(({ task }) => task.spec.material === material && task.spec.keptOut === keptOut && task.kind === kind);
      if (!part.length) continue;
      console.log(`\n${material}, ${keptOut ? 'kept out' : 'tuned on'}, ${{ mild: '× 0.8–1.25', far: '× 0.5–2', shift: 'shifted' }[kind]}`);
      console.log('                       ±1 ms   median      p95   attack  pre-echo  distance     seam  × real t.     hits');
      for (const maker of makers) {
        const of = part.filter((row) => row.maker === maker);
        if (of.length) line(maker, of);
        if (has('by-loop') && isOurs(maker)) lateHitsByLoop(of);
      }
    }
for (const material of materials)
  printSanity(
    material,
    sane.filter(({ stretchMode: engine }) => engine === engineOf[material]),
  );
console.log(`\nLengths that are not exact: ${wrongLengths}. Copies that are not bit for bit: ${changedCopies}.`);
if (!has('only-loops')) {
  sanityOf();
  benchSteady();
}
