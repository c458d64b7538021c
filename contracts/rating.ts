/** What a person thinks of a loop. */
export interface Rating {
  readonly person: string;
  /** 1–5; null for a note alone. */
  readonly stars: number | null;
  readonly note: string;
  readonly isOwn: boolean;
}
