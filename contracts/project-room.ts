/** A named state of a project. */
export interface VersionLine {
  readonly id: number;
  readonly name: string;
  readonly revision: number;
  readonly at: string;
  readonly person: string;
  readonly isOwn: boolean;
}

/** What somebody says to a bar of a project, or to such a note. */
export interface BarNote {
  readonly id: number;
  readonly answersId: number | null;
  readonly beat: number;
  readonly note: string;
  readonly at: string;
  readonly person: string;
  readonly isOwn: boolean;
  readonly doneAt: string | null;
  readonly doneBy: string | null;
}

/** Who has a project open, in which page, and which clip they hold. */
export interface Present {
  readonly projectId: number;
  /** Of the page: a person may have several open. */
  readonly pageId: string;
  readonly personId: number;
  readonly name: string;
  readonly clipId: string | null;
  /** Whether the page leaves. */
  readonly leaves: boolean;
}

/** A page says so often that it is there; twice as long unheard of, it is gone. */
export const presenceMs = 15_000;
