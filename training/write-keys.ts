import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { keyFeatures, sharedKeyFeatures } from '../core/analysis/key/key-features';
import { instrumentById } from '../core/theory/instruments';
import { Chance } from './material/chance';
import { composeOver, composeTonal } from './material/compose';
import { notesAsHeard } from './material/heard-notes';
import { nameFor } from './material/names';
import { pieceSeconds } from './material/piece';
import { keptOutKinds, makeWideHarmony, wideKinds } from './material/wide-harmony';
import type { Extracted } from './extract';
import { truthOf } from './truth';

/*
 * write-keys.ts FOLDER COUNT SEED [kept-out]: examples for keys that are written and never rendered, every second over wide harmony
 * (kept-out: all of them over kinds that nothing is learnt from), in the form that `extract.ts` writes.
 */
const [folder, countText, seedText, kind] = process.argv.slice(2),
  seed = Number(seedText),
  lines: string[] = [],
  blobs: Buffer[] = [];
let at = 0;
for (let index = 0; index < Number(countText); index++) {
  const pieceSeed = seed * 1_000_003 + index,
    chance = new Chance(seed * 7919 + index * 31 + 5),
    isWide = kind === 'kept-out' || chance.yes(1 / 2),
    piece = isWide
      ? composeOver(pieceSeed, (...over) => makeWideHarmony(kind === 'kept-out' ? keptOutKinds : wideKinds, ...over))
      : composeTonal(pieceSeed),
    shared = sharedKeyFeatures(notesAsHeard(piece, chance), 0, pieceSeconds(piece)),
    features = Float32Array.from(Array.from({ length: 12 }, (_, tonic) => keyFeatures(shared, tonic)).flat()),
    finish = { sound: [new Float32Array(1)], conditions: [], leadSeconds: 0, endDeltaSeconds: 0 };
  const line: Extracted = {
    truth: truthOf(
      `w${seed}_${index}`,
      piece,
      finish,
      0,
      ['written'],
      nameFor(piece, chance),
      instrumentById(piece.instrument)?.family ?? 'fx',
    ),
    ...{ timbreAt: 0, timbreCount: 0, strokeAt: 0, strokeCount: 0, kindAt: 0, kindCount: 0, rhythmAt: 0, rhythmCount: 0, oddAt: 0 },
    ...{ oddCount: 0, candidates: [], odd: [] },
    keyAt: at,
    keyCount: features.length / 12,
  };
  at += features.length;
  blobs.push(Buffer.from(features.buffer));
  lines.push(JSON.stringify(line));
}
mkdirSync(folder, { recursive: true });
writeFileSync(join(folder, 'features-0.json'), lines.join('\n'));
writeFileSync(join(folder, 'features-0.bin'), Buffer.concat(blobs));
