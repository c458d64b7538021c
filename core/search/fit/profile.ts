import type { Detail } from '../../analysis/analysis';

/** What fit and likeness go by of a loop, as bytes that fit a million times into memory. Bump the version when they mean something else. */
export const profileVersion = 1;
export const bandCount = 10,
  mostCells = 32,
  mostProfileBars = 8;
const at = {
  version: 0,
  bands: 1,
  density: 11,
  brightness: 12,
  spread: 13,
  swing: 14,
  fall: 15,
  cells: 16,
  accents: 17,
  bars: 49,
  harmony: 50,
};
export const profileLength = at.harmony + mostProfileBars * 6;

const byte = (value: number): number => Math.max(0, Math.min(255, Math.round(value)));
/** 0 stands for what is not known, so what is known begins at 1. */
const known = (value: number | null | undefined, toStep: (value: number) => number): number =>
  value === null || value === undefined || !Number.isFinite(value) ? 0 : Math.max(1, byte(1 + toStep(value)));

/** The profile of a loop that was heard. @param detail null for one that was not @returns null for that */
export function profileOf(detail: Detail | null): Uint8Array | null {
  if (!detail) return null;
  const bytes = new Uint8Array(profileLength),
    { groove, bands } = detail;
  bytes[at.version] = profileVersion;
  for (let k = 0; k < bandCount; k++) bytes[at.bands + k] = byte(255 * Math.sqrt(bands[k] ?? 0));
  bytes[at.density] = known(detail.density, (hits) => hits * 24);
  bytes[at.brightness] = known(detail.brightnessHz, (hz) => Math.log2(Math.max(50, hz) / 50) * 28);
  bytes[at.spread] = known(groove?.spreadMs, (ms) => ms * 4);
  bytes[at.swing] = known(groove?.swing, (swing) => (swing - 0.4) * 500);
  bytes[at.fall] = known(detail.fallSeconds, (seconds) => Math.log2(1 + Math.max(0, seconds) * 20) * 40);
  if (groove && groove.accents.length > 0) {
    const cells = Math.min(mostCells, groove.accents[0].length);
    bytes[at.cells] = cells;
    for (let k = 0; k < cells; k++) bytes[at.accents + k] = byte(255 * Math.max(...groove.accents.map((band) => band[k] ?? 0)));
  }
  const bars = detail.bars.slice(0, mostProfileBars);
  bytes[at.bars] = bars.length;
  bars.forEach(({ pitchClasses }, bar) =>
    pitchClasses.forEach((strength, pitch) => {
      bytes[at.harmony + bar * 6 + (pitch >> 1)] |= Math.max(0, Math.min(15, Math.round(strength * 15))) << (pitch % 2 ? 4 : 0);
    }),
  );
  return bytes;
}

/** Reads profiles out of one block of bytes, where each stands at its offset. */
export class ProfileReader {
  constructor(
    public bytes: Uint8Array,
    public offset = 0,
  ) {}
  /** Whether there is one of this version. */
  get isKnown(): boolean {
    return this.bytes[this.offset + at.version] === profileVersion;
  }
  /** Share of the energy in a band, 0–1. */
  band(k: number): number {
    return (this.bytes[this.offset + at.bands + k] / 255) ** 2;
  }
  /** Whether anything was measured of its colour: notes have none. */
  get hasBands(): boolean {
    for (let k = 0; k < bandCount; k++) if (this.bytes[this.offset + at.bands + k] > 0) return true;
    return false;
  }
  private knownAt(place: number): number | null {
    const value = this.bytes[this.offset + place];
    return value === 0 ? null : value - 1;
  }
  /** Hits a beat. */
  get density(): number | null {
    const value = this.knownAt(at.density);
    return value === null ? null : value / 24;
  }
  /** Octaves above 50 Hz. */
  get brightnessOctaves(): number | null {
    const value = this.knownAt(at.brightness);
    return value === null ? null : value / 28;
  }
  get spreadMs(): number | null {
    const value = this.knownAt(at.spread);
    return value === null ? null : value / 4;
  }
  get swing(): number | null {
    const value = this.knownAt(at.swing);
    return value === null ? null : 0.4 + value / 500;
  }
  get fallSeconds(): number | null {
    const value = this.knownAt(at.fall);
    return value === null ? null : (2 ** (value / 40) - 1) / 20;
  }
  /** Sixteenths of a bar (or what stands for them) of which accents are known; 0 for none. */
  get cells(): number {
    return this.bytes[this.offset + at.cells];
  }
  accent(cell: number): number {
    return this.bytes[this.offset + at.accents + cell] / 255;
  }
  /** Bars of which the notes are known. */
  get bars(): number {
    return this.bytes[this.offset + at.bars];
  }
  /** Strength of a pitch class in a bar, the strongest of the bar 1. */
  pitch(bar: number, pitchClass: number): number {
    const pair = this.bytes[this.offset + at.harmony + bar * 6 + (pitchClass >> 1)];
    return (pitchClass % 2 ? pair >> 4 : pair & 15) / 15;
  }
}
