import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { soundVector } from '../core/analysis/instrument/name-instrument';
import type { Extracted } from './extract';

/** A file of a set with what was heard in it. */
export interface Example extends Extracted {
  readonly numbers: (at: number, count: number) => Float32Array;
}

/** All that `extract.ts` wrote beside a set. */
export function loadExamples(folder: string): Example[] {
  const list: Example[] = [];
  for (let part = 0; existsSync(join(folder, `features-${part}.json`)); part++) {
    const bytes = readFileSync(join(folder, `features-${part}.bin`)),
      blob = new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength));
    for (const line of readFileSync(join(folder, `features-${part}.json`), 'utf8').split('\n'))
      list.push({ ...(JSON.parse(line) as Extracted), numbers: (at, count) => blob.subarray(at, at + count) });
  }
  return list;
}

/** What the networks of families and instruments are asked with. */
export const soundOf = (each: Example): Float32Array =>
  soundVector(each.numbers(each.timbreAt, each.timbreCount), each.numbers(each.strokeAt, each.strokeCount));
