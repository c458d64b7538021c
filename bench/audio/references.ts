import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseWav } from '../../core/formats/wav/parse';
import { writeWav } from '../../core/formats/wav/write';

export interface Reference {
  readonly name: string;
  /** The command line for a ratio of lengths and a shift, from one file to another. */
  readonly command: (ratio: number, shiftSemitones: number, from: string, to: string) => readonly string[];
}

/** Debian's: Rubber Band with both of its engines (crispness 6 is its own choice for drums), SoundTouch's soundstretch. */
export const references: readonly Reference[] = [
  { name: 'rubberband R3', command: (ratio, shift, from, to) => ['rubberband', '-3', '-q', '-t', `${ratio}`, '-p', `${shift}`, from, to] },
  {
    name: 'rubberband R2',
    command: (ratio, shift, from, to) => ['rubberband', '-2', '-c', '6', '-q', '-t', `${ratio}`, '-p', `${shift}`, from, to],
  },
  {
    name: 'soundstretch',
    command: (ratio, shift, from, to) => ['soundstretch', from, to, `-tempo=${(1 / ratio - 1) * 100}`, `-pitch=${shift}`],
  },
];

/** With its way of keeping formants, for the voice. */
export const formantReference: Reference = {
  name: 'rubberband R3 -F',
  command: (ratio, shift, from, to) => ['rubberband', '-3', '-F', '-q', '-t', `${ratio}`, '-p', `${shift}`, from, to],
};

export const haveReferences = (): boolean => ['rubberband', 'soundstretch'].every((name) => spawnSync('which', [name]).status === 0);

/** Three cycles through a command-line tool, the middle one cut out; CPU seconds are those of one cycle. */
export function runReference(
  reference: Reference,
  sound: readonly Float32Array[],
  targetFrames: number,
  shiftSemitones: number,
): { readonly sound: Float32Array[]; readonly cpuSeconds: number } {
  const folder = mkdtempSync(join(tmpdir(), 'garnetfinch-reference-')),
    from = join(folder, 'in.wav'),
    to = join(folder, 'out.wav'),
    frames = sound[0].length;
  try {
    const channels = sound.map((plane) => {
      const three = new Float32Array(frames * 3);
      for (let cycle = 0; cycle < 3; cycle++) three.set(plane, cycle * frames);
      return three;
    });
    writeFileSync(from, writeWav({ sampleRateHz: 44100, channels }, 'int24'));
    const command = reference.command(targetFrames / frames, shiftSemitones, from, to),
      run = spawnSync('bash', ['-c', 'export TIMEFORMAT="%U %S"; { time "$0" "$@" >/dev/null 2>&1; } 2>&1', ...command], {
        encoding: 'utf8',
      });
    if (!existsSync(to)) throw new Error(`${reference.name} made nothing: ${run.stdout}`);
    const made = parseWav(new Uint8Array(readFileSync(to))).channels.map((plane) => {
      const cycle = new Float32Array(targetFrames);
      cycle.set(plane.subarray(targetFrames, 2 * targetFrames));
      return cycle;
    });
    const [user, system] = run.stdout.trim().split(/\s+/).map(Number);
    return { sound: made, cpuSeconds: (user + system) / 3 };
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
