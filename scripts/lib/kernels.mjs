import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import asc from 'assemblyscript/asc';
import { at } from './paths.mjs';

/** The module and the text of kernels-wasm.ts. @throws {Error} with the compiler's words */
export async function compileKernels() {
  const folder = mkdtempSync(join(tmpdir(), 'kernels-')),
    out = join(folder, 'kernels.wasm');
  const { error, stderr } = await asc.main([
    at('core/dsp/kernels/assembly/kernels.ts'),
    ...['--outFile', out, '--runtime', 'stub', '--enable', 'simd', '-O3', '--converge', '--noAssert'],
  ]);
  if (error) throw new Error(stderr.toString());
  const module = readFileSync(out);
  rmSync(folder, { recursive: true });
  const text = module.toString('base64').match(/.{1,120}/g);
  return {
    module,
    source: `// Made by \`node scripts/build-kernels.mjs\` from assembly/kernels.ts; a test compiles it anew and compares.\nexport const kernelsBase64 =\n${text.map((line) => `  '${line}'`).join(' +\n')};\n`,
  };
}
