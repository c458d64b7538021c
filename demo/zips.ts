import { createWriteStream, existsSync } from 'node:fs';
import { mkdir, rename } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { Piscina } from 'piscina';
import { ZipFile } from 'yazl';
import type { FileSpec, PackSpec, StrayFile } from './catalogue';

/** The same bytes each time need the same date in every entry. */
const packedAt = new Date('2026-03-01T12:00:00Z');

/** What a stray file is made of, given the pack's first sound file. */
function strayBytes(stray: StrayFile, sound: Uint8Array): Buffer {
  switch (stray.kind) {
    case 'text':
      return Buffer.from(`${stray.text ?? ''}\n`);
    case 'junk':
      return Buffer.from([0, 5, 22, 7, 0, 2, 0, 0]);
    case 'truncated':
      return Buffer.from(sound.subarray(0, Math.floor(sound.length * 0.6)));
    case 'zero':
      return Buffer.alloc(0);
    case 'foreign':
      return Buffer.from('<!doctype html><title>Please sign in to download</title>');
  }
}

/**
 * Renders packs and writes one zip each into `dir`. Returns their paths, in order. `onFile` is told after every file.
 * Rendering is spread over `threads`.
 */
export async function writeZips(
  packs: readonly PackSpec[],
  dir: string,
  threads: number,
  onFile: (done: number, total: number) => void,
): Promise<string[]> {
  await mkdir(dir, { recursive: true });
  const pool = new Piscina<FileSpec, Uint8Array>({ filename: resolve('build/pool/demo.worker.mjs'), maxThreads: threads });
  const total = packs.reduce((sum, pack) => sum + pack.files.length, 0);
  let done = 0;
  const paths: string[] = [];
  try {
    for (const pack of packs) {
      const path = join(dir, `${pack.slug}.zip`);
      paths.push(path);
      // An earlier, interrupted try may have finished this one; the same pack has the same bytes.
      if (existsSync(path)) {
        done += pack.files.length;
        onFile(done, total);
        continue;
      }
      const rendered = await Promise.all(
        pack.files.map(async (file) => {
          const bytes = await pool.run(file);
          onFile(++done, total);
          return { path: file.path, bytes };
        }),
      );
      const zip = new ZipFile();
      const add = (path: string, bytes: Uint8Array) =>
        zip.addBuffer(Buffer.from(bytes), path, { mtime: packedAt, mode: 0o100644, compress: !/\.(flac|ogg)$/.test(path) });
      for (const { path, bytes } of rendered) add(path, bytes);
      for (const [copy, original] of pack.duplicates) {
        const found = rendered.find((file) => file.path === original);
        if (found) add(copy, found.bytes);
      }
      for (const stray of pack.strays) add(stray.path, strayBytes(stray, rendered[0].bytes));
      zip.end();
      await pipeline(zip.outputStream, createWriteStream(`${path}.part`));
      await rename(`${path}.part`, path);
    }
  } finally {
    await pool.destroy();
  }
  return paths;
}
