/** What a remote asks of the room of the same person. */
export const remoteCommands = ['hello', 'keep', 'skip', 'back', 'play', 'silence', 'hands-free', 'blind'] as const;
/** `keep-` and a number: what was shown under it, whatever sounds by now. */
export type RemoteCommand = (typeof remoteCommands)[number] | `digit-${number}` | `keep-${number}`;

/** What a room tells the remotes of its person. Kept small: a message between processes holds 8,000 bytes at most. */
export interface RoomState {
  /** By which the remote means what it shows; null while nothing is heard. */
  readonly ticket: number | null;
  readonly title: string | null;
  /** How it sounds: stretched, shifted, waiting for its bar. */
  readonly words: string;
  /** What it is: instrument, tempo, key, pack. */
  readonly facts: string;
  readonly playing: boolean;
  readonly handsFree: boolean;
  readonly blind: boolean;
  /** Titles by digit; `?` while they are hidden. */
  readonly shortlist: readonly string[];
  readonly digit: number | null;
}
