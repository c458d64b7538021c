// node scripts/build-kernels.mjs: compiles core/dsp/kernels/assembly into core/dsp/kernels/kernels-wasm.ts, which is committed.
import { writeFileSync } from 'node:fs';
import { compileKernels } from './lib/kernels.mjs';
import { at, say } from './lib/paths.mjs';

const { module, source } = await compileKernels();
writeFileSync(at('core/dsp/kernels/kernels-wasm.ts'), source);
say(`${module.length} bytes`);
