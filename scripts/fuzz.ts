import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { Piscina } from 'piscina';
import { createMp3Encoder } from 'wasm-media-encoders';
import { writeAiff } from '~core/formats/aiff/write';
import { writeSmf } from '~core/formats/smf/write';
import { writeWav } from '~core/formats/wav/write';
import { createRandom } from '~core/synth/random';
import type { DescribeRequest, DescribeResult } from '../command/describe.worker';
import { encodeAudio } from '../demo/encode/encode';

/*
 * npm run fuzz -- [--files 2000] [--seed 1]: small files of every format, cut off, with bytes flipped, sizes made enormous, parts repeated or left
 * out; each is analysed in a thread that is given five seconds. Nothing may crash, hang, or grow beyond a gigabyte; what cannot be read says why.
 */

const limitMs = 5000,
  mostMemoryBytes = 2 ** 30;

interface Outcome {
  readonly name: string;
  readonly ms: number;
  readonly kind: 'read' | 'refused' | 'crashed' | 'hung';
  readonly message: string;
}

const sound = (): Float32Array => Float32Array.from({ length: 22_050 }, (_, i) => 0.5 * Math.exp(-(i % 5512) / 900) * Math.sin(i / 7));

async function mp3(plane: Float32Array): Promise<Uint8Array> {
  const encoder = await createMp3Encoder();
  encoder.configure({ sampleRate: 44_100, channels: 1, bitrate: 128 });
  const parts = [encoder.encode([plane]).slice(), encoder.finalize().slice()];
  return Uint8Array.from(Buffer.concat(parts));
}

async function bases(): Promise<Record<string, Uint8Array>> {
  const planes = [sound()],
    pcm = { sampleRateHz: 44_100, channels: planes };
  return {
    'int16.wav': writeWav(pcm, 'int16', { info: { INAM: 'Base' }, sampler: { unityNote: 50, startFrame: 0, endFrame: 100 } }),
    'float.wav': writeWav(pcm, 'float32'),
    'int24.aiff': writeAiff(pcm, 24),
    'base.flac': await encodeAudio(pcm, 'flac', 'base', false),
    'base.ogg': await encodeAudio(pcm, 'ogg', 'base', false),
    'base.mp3': await mp3(planes[0]),
    'base.mid': writeSmf({
      notes: Array.from({ length: 16 }, (_, k) => ({ startBeat: k / 2, lengthBeats: 0.4, pitch: 40 + k, velocity: 90, channel: k % 2 })),
      lengthBeats: 8,
      tempoBpm: 97,
    }),
    'tone.opus': readFileSync(resolve('test/fixtures/tone-441hz.opus')),
  };
}

const ways: readonly ((bytes: Uint8Array, random: () => number) => Uint8Array)[] = [
  function cut(bytes, random) {
    return bytes.slice(0, Math.floor(random() * bytes.length));
  },
  function flip(bytes, random) {
    const out = bytes.slice();
    for (let k = 0; k < 1 + random() * 20; k++) out[Math.floor(random() * out.length)] ^= 1 << Math.floor(random() * 8);
    return out;
  },
  function flipHead(bytes, random) {
    const out = bytes.slice();
    for (let k = 0; k < 1 + random() * 6; k++) out[Math.floor(random() * Math.min(200, out.length))] = Math.floor(random() * 256);
    return out;
  },
  function enormous(bytes, random) {
    const out = bytes.slice(),
      at = Math.floor(random() * Math.min(400, out.length - 4));
    out.set(random() < 0.5 ? [0xff, 0xff, 0xff, 0xff] : [0xff, 0xff, 0xff, 0x7f], at);
    return out;
  },
  function zeros(bytes, random) {
    const out = bytes.slice(),
      at = Math.floor(random() * out.length);
    out.fill(0, at, at + Math.floor(random() * 4000));
    return out;
  },
  function leaveOut(bytes, random) {
    const from = Math.floor(random() * bytes.length),
      to = Math.min(bytes.length, from + Math.floor(random() * 500));
    return Uint8Array.from([...bytes.subarray(0, from), ...bytes.subarray(to)]);
  },
  function repeat(bytes, random) {
    const from = Math.floor(random() * bytes.length),
      part = bytes.subarray(from, from + Math.floor(random() * 3000));
    return Uint8Array.from([...bytes.subarray(0, from), ...part, ...part, ...part, ...bytes.subarray(from)]);
  },
];

async function main(): Promise<void> {
  const { values } = parseArgs({ options: { files: { type: 'string', default: '2000' }, seed: { type: 'string', default: '1' } } }),
    wanted = Number(values.files),
    folder = resolve(process.env.GARNETFINCH_DATA ?? '.data', 'fuzz');
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
  // A buffer's own `slice` would be of the same bytes.
  const from = Object.entries(await bases()).map(([name, bytes]) => [name, Uint8Array.from(bytes)] as const),
    random = createRandom(Number(values.seed)),
    pool = new Piscina<DescribeRequest, DescribeResult>({
      filename: resolve('build-tools/describe.worker.mjs'),
      maxThreads: 2,
      resourceLimits: { maxOldGenerationSizeMb: 768 },
    });
  let mostMemory = 0;
  const outcomes: Outcome[] = [],
    one = async (k: number): Promise<void> => {
      const [base, bytes] = from[k % from.length],
        way = ways[Math.floor(k / from.length) % ways.length],
        name = `${k} ${way.name} ${base}`,
        path = join(folder, name);
      writeFileSync(path, way(bytes, random));
      const stop = new AbortController(),
        timer = setTimeout(() => stop.abort(), limitMs),
        began = performance.now(),
        end = (kind: Outcome['kind'], message: string) => outcomes.push({ name, ms: performance.now() - began, kind, message });
      try {
        const result = await pool.run({ filePath: path, vendorPath: name, withTags: true }, { signal: stop.signal });
        if (result.ok) end('read', '');
        else end(result.message.startsWith('The file could not be analysed') ? 'crashed' : 'refused', result.message);
      } catch (error) {
        end(stop.signal.aborted ? 'hung' : 'crashed', (error as Error).message);
      }
      clearTimeout(timer);
      mostMemory = Math.max(mostMemory, process.memoryUsage().rss);
      rmSync(path);
    };
  // Threads load their networks once, which is nobody's fault.
  await one(0);
  outcomes.length = 0;
  let next = 0;
  await Promise.all(
    [0, 1].map(async () => {
      while (next < wanted) await one(next++);
    }),
  );
  await pool.destroy();
  const count = (kind: Outcome['kind']) => outcomes.filter((each) => each.kind === kind),
    slowest = [...outcomes].sort((a, b) => b.ms - a.ms)[0];
  console.log(
    `${outcomes.length} files: ${count('read').length} read, ${count('refused').length} refused in words, ${count('crashed').length} crashed, ${count('hung').length} hung. Slowest ${(slowest.ms / 1000).toFixed(2)} s (${slowest.name}); memory at most ${(mostMemory / 2 ** 20).toFixed(0)} MB.`,
  );
  for (const { name, kind, message } of [...count('crashed'), ...count('hung')].slice(0, 20)) console.log(`  ${kind}: ${name}: ${message}`);
  rmSync(folder, { recursive: true, force: true });
  process.exitCode = count('crashed').length + count('hung').length > 0 || mostMemory > mostMemoryBytes ? 1 : 0;
}

void main();
