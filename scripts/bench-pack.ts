import { createWriteStream, mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { ZipFile } from 'yazl';
import { writeWav } from '../core/formats/wav/write';
import { createRandom } from '../core/synth/random';
import { noteToHz } from '../core/units/pitch';

/** Writes a pack of `count` stereo 24-bit loops of 4 to 10 s, as files and as one zip: node --import tsx scripts/bench-pack.ts DIR COUNT */
async function main(): Promise<void> {
  const [dir, count] = [process.argv[2], Number(process.argv[3] ?? 300)],
    rateHz = 44100,
    zip = new ZipFile();
  mkdirSync(dir, { recursive: true });
  for (let n = 0; n < count; n++) {
    const random = createRandom(n + 1),
      tempo = 80 + Math.floor(random() * 60),
      beats = random() < 0.5 ? 8 : 16,
      frames = Math.round((beats * 60 * rateHz) / tempo),
      tonal = n % 2 === 0;
    const left = new Float32Array(frames),
      right = new Float32Array(frames),
      root = 36 + Math.floor(random() * 24);
    for (let beat = 0; beat < beats * 2; beat++) {
      const start = Math.round((beat * 30 * rateHz) / tempo),
        hz = noteToHz(root + [0, 7, 12, 3][beat % 4]),
        pan = random();
      for (let i = 0; i < rateHz * 0.3 && start + i < frames; i++) {
        const value =
          (tonal ? Math.sin((2 * Math.PI * hz * i) / rateHz) : random() * 2 - 1) * 0.4 * Math.exp(-i / (rateHz * (tonal ? 0.12 : 0.04)));
        left[start + i] += value * (1 - pan * 0.5);
        right[start + i] += value * (0.5 + pan * 0.5);
      }
    }
    const name = `${tonal ? 'Bass' : 'Drums'}/Bench ${tonal ? 'Bass' : 'Drum Loop'} ${String(n).padStart(3, '0')} ${tempo} bpm.wav`,
      bytes = Buffer.from(writeWav({ sampleRateHz: rateHz, channels: [left, right] }, 'int24'));
    writeFileSync(join(dir, name.replace('/', '_')), bytes);
    zip.addBuffer(bytes, name);
  }
  zip.end();
  await pipeline(zip.outputStream, createWriteStream(join(dir, 'pack.zip')));
}

void main();
