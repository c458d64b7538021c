import type { Project } from '~core/arrangement/tree';
import type { PartAsked, Tail } from '~core/making/part';
import type { BenchSetting, Step } from '~core/workbench/steps';

/** What is said of a loop that is given to the library: what is not said is heard. */
export interface Sheet {
  readonly name: string;
  /** null: heard. */
  readonly kind: 'loop' | 'one-shot' | 'phrase' | null;
  readonly setName: string;
  readonly setRole: string | null;
  readonly instrument: string | null;
  readonly genre: readonly string[];
  readonly character: readonly string[];
  readonly tags: readonly string[];
  readonly landingSeconds: number | null;
  /** One a bar; empty: as they are known, or heard. */
  readonly chords: string;
}

/** The pack that takes it: one that is there, or a new one of the group's own. */
export interface PackFor {
  readonly packId: number | null;
  readonly name: string;
  readonly vendor: string;
  readonly licence: string;
}

/** What a loop is to be made of, as a page asks for it. */
export type HowAsked =
  | { readonly kind: 'part'; readonly projectId: number; readonly as: 'sound' | 'notes'; readonly asked: PartAsked }
  | {
      readonly kind: 'steps';
      /** As notes: the pattern of slices that comes last. */
      readonly as: 'sound' | 'notes';
      readonly loopId: number;
      readonly steps: readonly Step[];
      readonly setting: BenchSetting;
    };

export interface MakingsAsked {
  readonly pack: PackFor;
  readonly makings: readonly { readonly sheet: Sheet; readonly how: HowAsked }[];
}

/** What is rendered. */
export type MakeHow =
  | { readonly kind: 'part'; readonly as: 'sound' | 'notes'; readonly part: Project; readonly lengthBeats: number; readonly tail: Tail }
  | { readonly kind: 'steps'; readonly as: 'sound' | 'notes'; readonly steps: readonly Step[]; readonly setting: BenchSetting }
  /** As it came in. */
  | {
      readonly kind: 'file';
      readonly fileName: string;
      /** Of the project that it was recorded over, from a first beat on. */ readonly tempoBpm: number | null;
    };

/** How a loop was made: kept with it for good. */
export type MadeHow = MakeHow & { readonly from: { readonly projectName: string } | { readonly loopId: number } | null };

export interface MakingLine {
  readonly id: number;
  readonly name: string;
  readonly state: 'queued' | 'working' | 'done' | 'failed';
  readonly message: string | null;
  readonly loopId: number | null;
}

/** What a loop was made of, and under which licences that stands. */
export interface Made {
  readonly how: MadeHow;
  readonly person: string;
  readonly at: string;
  readonly sources: readonly {
    readonly loopId: number;
    readonly title: string;
    readonly packName: string;
    readonly licence: string;
  }[];
}
