import { likenessLength } from '../../analysis/similarity/likeness';
import { ProfileReader, profileLength } from '../fit/profile';
import { alongWay, harmonyLikeness, readTaps, rhythmLikeness, soundLikeness, soundLikenesses, tappedLikeness } from '../near';
import type { Near } from '../query';
import { clearBit } from './bits';
import type { LibraryIndex } from './library-index';
import type { Condition } from './matching';

/** What is known of a sound of one's own. */
export interface AskedWith {
  readonly likeness: Uint8Array | null;
  readonly profile: Uint8Array | null;
}

interface Reference {
  readonly likeness: Int8Array | null;
  readonly offset: number;
  readonly profile: ProfileReader;
}

function referencesOf(index: LibraryIndex, near: Extract<Near, { kind: 'like' | 'sound' }>, asked: AskedWith | null): Reference[] {
  if (near.kind === 'sound')
    return asked
      ? [
          {
            likeness: asked.likeness && Int8Array.from(asked.likeness, (byte) => (byte << 24) >> 24),
            offset: 0,
            profile: new ProfileReader(asked.profile ?? new Uint8Array(profileLength)),
          },
        ]
      : [];
  return near.ids
    .flatMap((id) => index.slotOfId(id) ?? [])
    .map((slot) => ({
      likeness: index.hasLikeness.data[slot] ? index.likeness.data : null,
      offset: slot * likenessLength,
      profile: new ProfileReader(index.profiles.data, slot * profileLength),
    }));
}

/** By colour alone, what is asked most: a million times 32 bytes. */
function colourValues(index: LibraryIndex, references: readonly Reference[], values: Float32Array): Float32Array {
  const has = index.hasLikeness.data,
    { length } = index,
    found = new Float32Array(length);
  references.forEach(({ likeness, offset }, turn) => {
    if (likeness) soundLikenesses(index.likeness.data, likeness, offset, found);
    for (let slot = 0; slot < length; slot++) {
      const value = likeness && has[slot] ? 100 * found[slot] : 0;
      if (turn === 0 || value > values[slot]) values[slot] = value;
    }
  });
  return values;
}

/** What a list that is near to something leaves out: that itself; and along a character all that lies behind it, or is another instrument. */
export function nearConditions(index: LibraryIndex, near: Near | null): Condition[] {
  if (!near || near.kind === 'tapped' || near.kind === 'sound' || near.kind === 'tracks') return [];
  const ids = near.kind === 'than' ? [near.id] : near.ids;
  return [
    {
      facet: null,
      cacheKey: null,
      bits: () => {
        const values = near.kind === 'than' ? nearValues(index, near) : null,
          bits = index.bitsWhere((slot) => values === null || !Number.isNaN(values[slot]));
        for (const id of ids) {
          const slot = index.slotOfId(id);
          if (slot !== undefined) clearBit(bits, slot);
        }
        return bits;
      },
    },
  ];
}

/**
 * How near each slot is, 0–100; NaN for those that are not to be compared. Along a character the next one is the nearest.
 * @returns null where what it is to be near to is not there, or is judged by fit
 */
export function nearValues(index: LibraryIndex, near: Near, asked: AskedWith | null = null): Float32Array | null {
  const values = new Float32Array(index.length).fill(NaN),
    profile = new ProfileReader(index.profiles.data),
    at = (slot: number): ProfileReader => {
      profile.offset = slot * profileLength;
      return profile;
    };
  switch (near.kind) {
    case 'with':
    case 'tracks':
      return null;
    case 'tapped': {
      const readings = new Map<number, ReturnType<typeof readTaps>>();
      for (let slot = 0; slot < index.length; slot++) {
        if (!index.isAlive(slot) || at(slot).cells === 0) continue;
        const own = readings.get(profile.cells) ?? readTaps(near.atMs, profile.cells);
        readings.set(profile.cells, own);
        values[slot] = 100 * tappedLikeness(profile, own);
      }
      return values;
    }
    case 'than': {
      const from = index.slotOfId(near.id);
      if (from === undefined) return values;
      const start = alongWay(new ProfileReader(index.profiles.data, from * profileLength), near.way),
        instrument = index.instruments.codeAt(from),
        family = index.families.codeAt(from);
      if (start === null) return values;
      for (let slot = 0; slot < index.length; slot++) {
        if (!index.isAlive(slot) || !at(slot).isKnown) continue;
        if (instrument ? index.instruments.codeAt(slot) !== instrument : index.families.codeAt(slot) !== family) continue;
        const along = alongWay(profile, near.way);
        if (along !== null && along > start + 1e-9) values[slot] = 100 / (1 + along - start);
      }
      return values;
    }
    case 'sound':
    case 'like': {
      if (near.rhythm === 0 && near.harmony === 0) return colourValues(index, referencesOf(index, near, asked), values);
      const references = referencesOf(index, near, asked),
        heavy = near.sound + near.rhythm + near.harmony;
      for (let slot = 0; slot < index.length; slot++) {
        if (!index.isAlive(slot)) continue;
        at(slot);
        let best = NaN;
        for (const reference of references) {
          const sound =
              near.sound > 0 && reference.likeness && index.hasLikeness.data[slot]
                ? soundLikeness(index.likeness.data, slot * likenessLength, reference.likeness, reference.offset)
                : 0,
            rhythm = near.rhythm > 0 ? rhythmLikeness(reference.profile, profile) || 0 : 0,
            harmony = near.harmony > 0 ? harmonyLikeness(reference.profile, profile) || 0 : 0,
            value = (100 * (near.sound * sound + near.rhythm * rhythm + near.harmony * harmony)) / heavy;
          if (Number.isNaN(best) || value > best) best = value;
        }
        values[slot] = best;
      }
      return values;
    }
  }
}
