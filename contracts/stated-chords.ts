import type { ChordMark } from '~core/arrangement/tree';

/** Chords of a loop that are known because somebody said them, or because it was made over them: above all that is heard. */
export interface StatedChords {
  /** From its first bar, in beats of the loop. */
  readonly marks: readonly ChordMark[];
  readonly source: 'person' | 'project';
  /** Who, or in which project. */
  readonly by: string;
}
