import { execFile } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { ensembleLogits, readEnsemble, softmax, type Ensemble, type EnsembleFile, type Layers } from '../core/analysis/learned/network';
import { loadExamples as load, type Example } from './features-file';
import { inputOf, rhythmRow } from './inputs';
import { usualRow } from '../core/analysis/tempo/odd-bars';
import { packEnsemble, rescaled, scaled, scaling, trainNetwork, type Group } from './learn';

import { knownRhythm, oddRows, tasks } from './tasks';

/*
 * train.ts WHAT TRAIN-FOLDER,… CHECK-FOLDER,… [--epochs N] [--members N] [--carry N] [--keep] [--out FILE]
 * WHAT: rhythm · meter · key · home · family · instrument · loop · pitched. Checks are folders whose sources were kept out of training; they
 * also set the temperature.
 */
const [what, trainFolders, checkFolders] = process.argv.slice(2);
const option = (name: string, otherwise: number): number => {
  const at = process.argv.indexOf(`--${name}`);
  return at > 0 ? Number(process.argv[at + 1]) : otherwise;
};
const outAt = process.argv.indexOf('--out'),
  out = outAt > 0 ? process.argv[outAt + 1] : null;

const colour = (each: Example): Float32Array => inputOf(what, each);
/** Networks wide enough that bytes must do for their weights. */
const bits = what === 'family' || what === 'instrument' || what === 'rhythm' ? 8 : 16;

const plainArrays = (_: string, value: unknown): unknown => (value instanceof Float32Array ? [...value] : value);

const task = tasks[what](),
  train = trainFolders.split(',').flatMap(load),
  checks = checkFolders.split(',').map((folder) => ({ folder, examples: load(folder) }));
const groups = task.groups(train),
  scale = scaling(groups.flatMap(({ group }) => (group.rows.length > 40 ? group.rows.filter((_, k) => k % 8 === 0) : group.rows)));
const ready: Group[] = groups.map(({ group }) => ({ ...group, rows: group.rows.map((row) => scaled(row, scale)) }));
const recipe = {
    ...task.recipe,
    epochs: option('epochs', task.recipe.epochs),
    hidden: option('hidden', task.recipe.hidden),
    noise: option('noise', task.recipe.noise),
    dropout: option('dropout', task.recipe.dropout),
    decay: option('decay', task.recipe.decay),
    mixup: option('mixup', task.recipe.mixup ?? 0),
  },
  members = option('members', what === 'rhythm' ? 4 : what === 'family' || what === 'instrument' ? 2 : 3),
  began = performance.now();
console.error(`${what}: ${ready.length} groups of ${train.length} files, ${ready[0].rows[0].length} inputs`);
/** One member by itself, for a process of its own. */
const member = option('member', -1);
if (member >= 0) {
  writeFileSync(
    process.argv[process.argv.indexOf('--raw') + 1],
    JSON.stringify(trainNetwork(ready, { ...recipe, seed: 11 + member }), plainArrays),
  );
  process.exit(0);
}
/** With --keep the networks stay, and only the temperature is set anew. */
const kept = process.argv.includes('--keep') && out ? readEnsemble(JSON.parse(readFileSync(out, 'utf8')) as EnsembleFile) : null;
/**
 * Networks of the generation before, made from other sets, err elsewhere: the last four of the weights in place rank on beside the new
 * ones.
 */
const before = what === 'rhythm' && out && !kept ? knownRhythm(ready[0].rows[0].length) : null,
  carried = before ? before.networks.slice(-option('carry', 4)).map((net) => rescaled(net, before, scale)) : [];
const networks = kept ? [...kept.networks] : [...(await trainMembers()), ...carried];
const packedAt = (temperature: number, made: string) =>
  packEnsemble(networks, kept ? { mean: kept.mean, deviation: kept.deviation } : scale, task.labels, temperature, made, bits);
const untempered: Ensemble = readEnsemble(packedAt(1, ''));
console.error(`${members} networks in ${((performance.now() - began) / 1000).toFixed(0)} s`);

/** Two members at a time, each in its own process. */
async function trainMembers(): Promise<Layers[]> {
  const trained: Layers[] = [],
    folder = mkdtempSync(join(tmpdir(), 'train-'));
  const waiting = Array.from({ length: members }, (_, k) => k);
  const work = async () => {
    for (let k = waiting.shift(); k !== undefined; k = waiting.shift()) {
      const raw = join(folder, `${k}.json`);
      await promisify(execFile)(process.execPath, ['--import', 'tsx', ...process.argv.slice(1), '--member', String(k), '--raw', raw]);
      const read = JSON.parse(readFileSync(raw, 'utf8')) as Record<keyof Layers, number | number[]>;
      trained[k] = Object.fromEntries(
        Object.entries(read).map(([name, value]) => [name, Array.isArray(value) ? Float32Array.from(value) : value]),
      ) as unknown as Layers;
    }
  };
  await Promise.all([work(), work()]);
  rmSync(folder, { recursive: true });
  return trained;
}

/** Logits of an example before any temperature; worked out once. */
const logitsByExample = new Map<Example, Float32Array | null>();
function logitsOf(example: Example): Float32Array | null {
  let logits = logitsByExample.get(example);
  if (logits === undefined) {
    const at = (from: number, count: number) => [...ensembleLogits(untempered, example.numbers(from, count))];
    if (what === 'rhythm')
      logits = example.candidates.length
        ? Float32Array.from(example.candidates, (_, k) => ensembleLogits(untempered, rhythmRow(example, k))[0])
        : null;
    else if (what === 'meter')
      logits = example.odd.length ? Float32Array.from([usualRow, ...oddRows(example)], (row) => ensembleLogits(untempered, row)[0]) : null;
    else if (what === 'key')
      logits = Float32Array.from(
        Array.from({ length: 12 }, (_, tonic) => at(example.keyAt + tonic * example.keyCount, example.keyCount)).flat(),
      );
    else logits = ensembleLogits(untempered, colour(example));
    logitsByExample.set(example, logits);
  }
  return logits;
}

interface Figures {
  n: number;
  right: number;
  ece: number;
  loss: number;
  notes: Map<string, number>;
}
function measure(temperature: number, examples: readonly Example[]): Figures {
  const bins = Array.from({ length: 10 }, () => ({ n: 0, sure: 0, right: 0 })),
    notes = new Map<string, number>();
  let n = 0,
    right = 0,
    loss = 0;
  for (const example of examples) {
    const logits = logitsOf(example),
      probabilities = logits && softmax(logits.map((value) => value / temperature)),
      judged = probabilities && task.judge(probabilities, example);
    if (!judged) continue;
    n++;
    right += Number(judged.right);
    loss -= Math.log(Math.max(1e-6, judged.right ? judged.sure : 1 - judged.sure));
    const bin = bins[Math.min(9, Math.floor(judged.sure * 10))];
    bin.n++;
    bin.sure += judged.sure;
    bin.right += Number(judged.right);
    if (judged.note) notes.set(judged.note, (notes.get(judged.note) ?? 0) + 1);
  }
  return { n, right: right / n, ece: bins.reduce((sum, bin) => sum + Math.abs(bin.sure - bin.right) / n, 0), loss: loss / n, notes };
}

// The temperature of least loss on all checks together, so that recordings, which sound like nothing that was learned from, have their say.
// Where there are recordings among them the sharpest of those that are as good within a fiftieth, for most of what comes in is none.
const trials = [0.35, 0.42, 0.5, 0.6, 0.7, 0.8, 0.9, 1, 1.15, 1.3, 1.5, 1.75, 2, 2.4, 3].map((trial) => ({
    trial,
    loss: measure(
      trial,
      checks.flatMap(({ examples }) => examples),
    ).loss,
  })),
  least = Math.min(...trials.map(({ loss }) => loss)),
  temperature = Math.min(...trials.filter(({ loss }) => loss <= least * (checks.length > 1 ? 1.02 : 1)).map(({ trial }) => trial));
const figures = checks.map(({ folder, examples }) => ({ folder, ...measure(temperature, examples) }));
const seen = measure(temperature, train.slice(0, 600));
console.log(`${what} seen ${(100 * seen.right).toFixed(1)} % · temperature ${temperature}`);
for (const each of figures) {
  console.log(`  ${each.folder}: ${(100 * each.right).toFixed(1)} % of ${each.n}, ECE ${each.ece.toFixed(3)}`);
  console.log(
    `    ${[...each.notes]
      .sort((a, b) => b[1] - a[1])
      .slice(0, 14)
      .map(([note, count]) => `${note} (${count})`)
      .join(', ')}`,
  );
}
if (out) {
  const made = `${what}: trained on ${groups.length} examples of ${trainFolders.split(',').length} sets; seen ${(100 * seen.right).toFixed(1)} %; ${figures.map((each) => `unseen ${(100 * each.right).toFixed(1)} % of ${each.n}, ECE ${each.ece.toFixed(3)}`).join('; ')}`;
  writeFileSync(out, `${JSON.stringify(packedAt(temperature, made))}\n`);
}
