import { createWriteStream, existsSync, readdirSync, statSync } from 'node:fs';
import { cpus } from 'node:os';
import { basename, dirname, join, relative, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { Piscina } from 'piscina';
import type { DescribeRequest, DescribeResult } from './describe.worker';
import { contextEvidence, type LoopInPack } from '~core/analysis/evidence/context';
import { formatsByExtension } from '~core/formats/sniff';
import { setStem } from '~core/names/set-role';
import { describe } from './describe';
import { summaryLine } from './summary-line';

/*
 * The command that analyses files outside the library. Results go to standard output or a file, one JSON object a line; progress
 * and complaints go to standard error. Exit code 0: all read; 1: some could not be read; 2: nothing was asked or found.
 */
const usage = `npm run -s analyze -- [--audio-only] [--json] [--out FILE] [--jobs N] PATH…

  PATH          a sound or MIDI file, or a folder of them (with all below it)
  --audio-only  believe nothing but the sound: no names, no folders, no tags
  --json        one JSON object a line (also without it, unless a person reads along at a terminal)
  --out FILE    write there instead of to standard output
  --jobs N      threads; as many as there are cores by default
`;
const soundFile = new RegExp(`\\.(${Object.keys(formatsByExtension).join('|')})$`, 'i');

function readArguments() {
  try {
    return parseArgs({
      allowPositionals: true,
      options: {
        'audio-only': { type: 'boolean' },
        json: { type: 'boolean' },
        out: { type: 'string' },
        jobs: { type: 'string' },
        help: { type: 'boolean' },
      },
    });
  } catch (error) {
    process.stderr.write(`${(error as Error).message}\n\n${usage}`);
    process.exit(2);
  }
}
const { values: options, positionals } = readArguments();
if (options.help || positionals.length === 0) {
  process.stderr.write(usage);
  process.exit(options.help ? 0 : 2);
}

interface Asked {
  /** As the result names it: relative to the folder that was asked for. */
  readonly file: string;
  readonly path: string;
}

const from = process.env.INIT_CWD ?? process.cwd();
/** Paths that lead to nothing, each with a word why. */
const missing: string[] = [];

/** The sound files of a folder and of all below it. A folder that may not be read costs no other. */
function soundsBelow(folder: string, shown: string): string[] {
  try {
    return readdirSync(folder, { withFileTypes: true })
      .filter(({ name }) => !name.startsWith('.'))
      .flatMap((entry) => {
        const path = join(folder, entry.name);
        return entry.isDirectory() ? soundsBelow(path, join(shown, entry.name)) : soundFile.test(entry.name) ? [path] : [];
      });
  } catch {
    missing.push(`${shown}: the folder may not be read`);
    return [];
  }
}
const asked: Asked[] = positionals.flatMap((given): Asked[] => {
  const path = resolve(from, given);
  if (!existsSync(path)) {
    missing.push(`${given}: there is no such file or folder`);
    return [];
  }
  if (statSync(path).isFile()) return [{ file: basename(path), path }];
  return soundsBelow(path, given)
    .map((below) => ({ file: relative(path, below), path: below }))
    .sort((a, b) => (a.file < b.file ? -1 : 1));
});
for (const complaint of missing) process.stderr.write(`${complaint}\n`);

const out = options.out ? createWriteStream(resolve(from, options.out)) : process.stdout,
  forPeople = !options.json && !options.out && process.stdout.isTTY === true,
  threads = Math.max(1, Math.min(Number(options.jobs ?? cpus().length), asked.length));
const pool = new Piscina({
  filename: join(dirname(fileURLToPath(import.meta.url)), 'describe.worker.mjs'),
  minThreads: threads,
  maxThreads: threads,
});
let done = 0,
  failed = missing.length;
const results = await Promise.all(
  asked.map(async ({ file, path }): Promise<DescribeResult> => {
    const request: DescribeRequest = { filePath: path, vendorPath: options['audio-only'] ? '' : file, withTags: !options['audio-only'] };
    // A thread that dies (out of memory) takes its own file with it and no other.
    const result = (await pool
      .run(request)
      .catch((error: Error) => ({ ok: false, message: `The analysis broke off: ${error.message}` }))) as DescribeResult;
    done++;
    if (!result.ok) {
      failed++;
      process.stderr.write(`${file}: ${result.message}\n`);
    }
    if (process.stderr.isTTY) process.stderr.write(`\r${done} of ${asked.length}`);
    else if (done % 50 === 0 || done === asked.length) process.stderr.write(`${done} of ${asked.length}\n`);
    return result;
  }),
);
// The files of a pack (the first folder of their path) speak for each other, unless only the sound may.
const packs = new Map<string, LoopInPack[]>();
results.forEach((result, id) => {
  if (!result.ok || options['audio-only']) return;
  const pack = asked[id].file.split('/').slice(0, -1)[0] ?? '',
    stem = setStem(asked[id].file);
  packs.set(pack, [...(packs.get(pack) ?? []), { id, set: stem, evidence: result.analysis.evidence }]);
});
const context = new Map([...packs.values()].flatMap((loops) => [...contextEvidence(loops)]));
results.forEach((result, id) => {
  const { file } = asked[id],
    object = result.ok ? { file, ...describe(result.analysis, context.get(id) ?? []) } : { file, error: result.message };
  out.write(forPeople ? `${summaryLine(object)}\n` : `${JSON.stringify(object)}\n`);
});
await pool.destroy();
if (out !== process.stdout) await new Promise<void>((closed) => out.end(closed));
if (asked.length === 0) process.stderr.write('There is nothing to analyse.\n');
process.exitCode = asked.length === 0 ? 2 : failed > 0 ? 1 : 0;
