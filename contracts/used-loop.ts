/** A loop that is heard in a piece, and under what it stands. */
export interface UsedLoop {
  readonly loopId: number;
  readonly title: string;
  readonly fileName: string;
  readonly packId: number;
  readonly packName: string;
  readonly vendor: string;
  /** '' where none is stated. */
  readonly licence: string;
  /** Of what was taken from outside. */
  readonly origin: { readonly author: string; readonly pageUrl: string; readonly sourceName: string } | null;
  /** What it was made of, where it was made here: it stands under their licences too. */
  readonly madeOf: readonly { readonly title: string; readonly packName: string; readonly licence: string }[];
  /** Names of the tracks that play it. */
  readonly tracks: readonly string[];
}

/** The licences under which a loop stands: its own, and those of what it was made of. */
export const standsUnder = ({ licence, madeOf }: UsedLoop): readonly string[] => [licence, ...madeOf.map((source) => source.licence)];
