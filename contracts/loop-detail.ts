import type { Made } from './making';
import type { Detail } from '~core/analysis/analysis';
import type { ChosenFacts } from '~core/analysis/evidence/choose';
import type { Attribute, Candidate } from '~core/analysis/facts';
import type { Source } from '~core/analysis/sources';
import type { Origin } from './outside';
import type { Rating } from './rating';
import type { StatedChords } from './stated-chords';
import type { WholeLoop } from './whole-loop';

export interface FactLine {
  readonly attribute: Attribute;
  readonly value: unknown;
  readonly confidence: number;
  readonly source: Source;
  readonly alternatives: readonly Candidate[];
  readonly reason: string;
  readonly person: string | null;
  readonly at: string;
}
export interface LoopDetail {
  readonly row: WholeLoop;
  readonly vendorPath: string;
  readonly fileFormat: string;
  readonly fileSha: string;
  readonly tuningCents: number | null;
  readonly chroma: readonly number[];
  readonly analysis: Detail | null;
  /** Where bar 1 begins in the file. */
  readonly firstBarSeconds: number;
  readonly chosen: ChosenFacts;
  readonly facts: readonly FactLine[];
  readonly tags: readonly string[];
  readonly siblings: readonly { readonly id: number; readonly title: string }[];
  /** Projects with the bars in which it sounds. */
  readonly usedIn: readonly { readonly id: number; readonly name: string; readonly bars: string }[];
  /** What everybody thinks of it, the latest first. */
  readonly ratings: readonly Rating[];
  readonly licence: string;
  /** Where it was taken from; null for what a vendor's pack brought. */
  readonly origin: Origin | null;
  /** Its chords as somebody stated them; null where they are only heard. */
  readonly statedChords: StatedChords | null;
  /** Of a loop that was made here. */
  readonly made: Made | null;
  readonly archived: boolean;
}
