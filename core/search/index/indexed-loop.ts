import type { LoopKind } from '../../analysis/attributes/loop-kinds';

/** What the index holds of a loop, as it is told by who reads the library. */
export interface IndexedLoop {
  readonly id: number;
  readonly packId: number;
  readonly setId: number | null;
  readonly kind: LoopKind;
  readonly media: 'audio' | 'midi';
  readonly title: string;
  readonly packName: string;
  readonly vendor: string;
  readonly setStem: string | null;
  readonly licence: string;
  readonly tempoBpm: number | null;
  readonly keyTonic: number | null;
  readonly keyMode: 'major' | 'minor' | null;
  readonly pitched: boolean | null;
  readonly instrument: string | null;
  readonly family: string | null;
  readonly bars: number | null;
  readonly beats: number | null;
  readonly meter: string | null;
  readonly lengthSeconds: number;
  readonly loudnessLufs: number | null;
  readonly addedAtMs: number;
  readonly addedBy: number;
  readonly isDoubtful: boolean;
  /** The vendor's folder, with a stroke at its end; empty for none. */
  readonly folder: string;
  /** What words are looked for in, folded. */
  readonly searchText: string;
  /** What it holds of each facet that is held against a column, by the facet's name. */
  readonly facets: Readonly<Record<string, string | readonly string[] | null>>;
  /** 32 signed bytes, see `likenessOf`; null where there is none. */
  readonly likeness: Uint8Array | null;
  /** See `profileOf`; null where there is none. */
  readonly profile: Uint8Array | null;
}
