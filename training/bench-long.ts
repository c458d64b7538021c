import { spawn } from 'node:child_process';
import { closeSync, existsSync, mkdirSync, openSync, readFileSync, rmSync, writeSync } from 'node:fs';
import { dirname } from 'node:path';
import { writeWav } from '../core/formats/wav/write';
import { createRandom } from '../core/synth/random';

const minutes = 20,
  rateHz = 44100;

/** Twenty minutes of a beat in stereo, 16 bits; written bar by bar. */
function writeLongFile(path: string): void {
  const random = createRandom(7),
    bar = Float32Array.from({ length: 2 * rateHz }, (_, i) => {
      const sinceBeat = i % (rateHz / 2);
      return 0.6 * Math.exp(-sinceBeat / 3000) * (random() * 2 - 1) + 0.1 * Math.sin(i / 64);
    }),
    bytes = writeWav({ sampleRateHz: rateHz, channels: [bar, bar.map((value) => value * 0.8)] }, 'int16'),
    bars = (minutes * 60) / 2,
    head = Buffer.from(bytes.slice(0, 44)),
    dataBytes = (bytes.length - 44) * bars;
  head.writeUInt32LE(dataBytes + 36, 4);
  head.writeUInt32LE(dataBytes, 40);
  mkdirSync(dirname(path), { recursive: true });
  const out = openSync(path, 'w');
  writeSync(out, head);
  for (let k = 0; k < bars; k++) writeSync(out, bytes, 44);
  closeSync(out);
}

/** Peak memory of the command that analyses files, on a file of twenty minutes and on one of eight seconds, as the system counts it. */
export async function benchLong(folder: string, shortFile: string): Promise<void> {
  const long = `${folder}/twenty-minutes.wav`;
  writeLongFile(long);
  try {
    for (const [title, path] of [
      ['eight seconds', shortFile],
      [`${minutes} minutes, stereo, 16 bits`, long],
    ] as const) {
      const began = performance.now(),
        peakMb = await peakMemoryMb(['build-tools/analyze.mjs', '--audio-only', '--json', '--jobs', '1', path]);
      console.log(`${title}: ${Math.round(peakMb)} MB at the most, ${((performance.now() - began) / 1000).toFixed(1)} s`);
    }
  } finally {
    rmSync(long, { force: true });
  }
}

/** High-water mark of a process with all its threads (Linux: VmHWM). */
function peakMemoryMb(args: readonly string[]): Promise<number> {
  return new Promise((done, fail) => {
    const child = spawn(process.execPath, args, { stdio: ['ignore', 'ignore', 'inherit'] });
    let peakKb = 0;
    const timer = setInterval(() => {
      const status = `/proc/${child.pid}/status`;
      if (!existsSync(status)) return;
      try {
        peakKb = Math.max(peakKb, Number(/VmHWM:\s+(\d+)/.exec(readFileSync(status, 'utf8'))?.[1] ?? 0));
      } catch {
        // It ended between the two lines.
      }
    }, 50);
    child.on('error', fail);
    child.on('exit', () => {
      clearInterval(timer);
      done(peakKb / 1024);
    });
  });
}
