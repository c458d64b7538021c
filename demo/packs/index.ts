import type { PackSpec } from '../catalogue';
import { copperkettle, tinRoofKits } from './rhythm';
import { driftglass, lowLantern, ninepin, quayStreet, wickerwork } from './tonal';

/** All packs of the demo, in the order in which they came in. */
export const demoPacks = (): readonly PackSpec[] => [
  copperkettle(),
  ninepin(),
  wickerwork(),
  driftglass(),
  quayStreet(),
  lowLantern(),
  tinRoofKits(),
];
