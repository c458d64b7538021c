import family from './weights/family.json';
import home from './weights/home.json';
import instrument from './weights/instrument.json';
import key from './weights/key.json';
import layers from './weights/layers.json';
import loop from './weights/loop.json';
import meter from './weights/meter.json';
import pitched from './weights/pitched.json';
import rhythm from './weights/rhythm.json';
import { readEnsemble, type Ensemble, type EnsembleFile } from './network';

/** The learned parts; made by `npm run train`, with the figures of the run in each file. Unpacked when first asked. */
const files = { family, home, instrument, key, layers, loop, meter, pitched, rhythm } as const satisfies Readonly<
  Record<string, EnsembleFile>
>;
export type ModelName = keyof typeof files;

const kept = new Map<ModelName, Ensemble>();

/** The learned networks of one question, read when first asked for and kept. @throws when there are none of that name */
export function model(name: ModelName): Ensemble {
  let found = kept.get(name);
  if (!found) {
    found = readEnsemble(files[name]);
    kept.set(name, found);
  }
  return found;
}
