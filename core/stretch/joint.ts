/** Of what is inside a cycle this share may be sharper than its joint without there being a click. */
const sharpShare = 0.001,
  /** Energies are compared over 20 ms at 44.1 kHz. */
  aroundFrames = 882,
  /** 7 dB more after than before is a beginning. */
  hitRise = 5;

/** How sharply a cycle bends around a place inside: its third difference. */
const bendAt = (plane: Float32Array, i: number): number => Math.abs(plane[i + 3] - plane[i] + 3 * (plane[i + 1] - plane[i + 2]));

/** The same around each place inside. */
export function bendsInside(plane: Float32Array): Float32Array {
  const bends = new Float32Array(plane.length - 3);
  for (let i = 0; i < bends.length; i++) bends[i] = bendAt(plane, i);
  return bends;
}

/** The same around any place, read round the end. */
function bendAround(plane: Float32Array, place: number): number {
  const frames = plane.length,
    at = (k: number) => plane[(((place + k) % frames) + frames) % frames];
  return Math.abs(at(3) - at(0) + 3 * (at(1) - at(2)));
}

/** The sharpest of the places that reach over the joint of end and start, and of so many in front of it. */
export function sharpestJoint(plane: Float32Array, leadLength = 0): number {
  let sharpest = 0;
  for (let back = 1; back <= 3 + leadLength; back++) sharpest = Math.max(sharpest, bendAround(plane, plane.length - back));
  return sharpest;
}

/** How many places inside a cycle may be sharper than a joint that clicks. */
export const sharpPlaces = (frames: number): number => Math.ceil(frames * sharpShare);

/** Whether a cycle bends more sharply where its end joins its start than nearly everywhere inside. */
export function isJointSharp(plane: Float32Array): boolean {
  const joint = sharpestJoint(plane),
    most = sharpPlaces(plane.length);
  if (joint === 0) return false;
  let sharper = 0;
  for (let i = 0; i < plane.length - 3; i++) if (bendAt(plane, i) >= joint && ++sharper > most) return false;
  return true;
}

/** Whether a cycle's end clicks into its start, with no hit there that would be meant to. */
export const clicksAtJoint = (plane: Float32Array): boolean =>
  isJointSharp(plane) &&
  energy(plane, 0, Math.min(aroundFrames, plane.length)) < hitRise * energy(plane, Math.max(0, plane.length - aroundFrames), plane.length);

function energy(plane: Float32Array, from: number, to: number): number {
  let sum = 0;
  for (let i = from; i < to; i++) sum += plane[i] * plane[i];
  return sum;
}
