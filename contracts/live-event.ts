import type { Present } from './project-room';
import type { RemoteCommand, RoomState } from './remote';

/** Everything that is told as it happens, from the database to the pages. The payload names what changed; who needs more asks for it. */
export type LiveEvent =
  /** An import went on; null: folders from which they come. */
  | { readonly kind: 'import'; readonly batchId: number | null }
  /** Facts of these loops changed; null: which loops there are, or of so many that lists are loaded anew. */
  | { readonly kind: 'library'; readonly loopIds: readonly number[] | null }
  /** The group has other instruments of its own than before. */
  | { readonly kind: 'instruments' }
  /** Which projects there are, or what one is called, is otherwise than before. */
  | { readonly kind: 'projects' }
  | { readonly kind: 'project'; readonly projectId: number; readonly revision: number }
  /** Versions of a project, or notes to its bars. */
  | { readonly kind: 'project-room'; readonly projectId: number }
  | ({ readonly kind: 'presence' } & Present)
  /** A pack’s demo mix is there, or will not be. */
  | { readonly kind: 'pack'; readonly packId: number }
  /** How a piece that goes out stands; with a share, 0–1, how far it is made and nothing else. */
  | { readonly kind: 'export'; readonly exportId: number; readonly share?: number }
  /** A loop that somebody makes is there, or will not be. */
  | { readonly kind: 'making'; readonly makingId: number; readonly personId: number }
  /** Between the rooms and the remotes of one person; nobody else is told. */
  | { readonly kind: 'remote-command'; readonly personId: number; readonly command: RemoteCommand }
  | { readonly kind: 'remote-room'; readonly personId: number; readonly room: RoomState }
  /** From a stream to its page alone: what was announced since the page was made, or since it last heard, is no longer known. */
  | { readonly kind: 'missed' }
  /** Sessions whose streams end; told to no page. */
  | { readonly kind: 'signed-out'; readonly sessions: readonly string[] };

export type LiveKind = LiveEvent['kind'];
export type LiveEventOf<K extends LiveKind> = Extract<LiveEvent, { readonly kind: K }>;

const kinds: ReadonlySet<string> = new Set<LiveKind>([
  'import',
  'library',
  'projects',
  'project',
  'project-room',
  'presence',
  'pack',
  'instruments',
  'export',
  'making',
  'remote-command',
  'remote-room',
  'missed',
  'signed-out',
]);

export const writeLiveEvent = (event: LiveEvent): string => JSON.stringify(event);

/** @returns null for what is no event of ours, as one of an older or newer version may be */
export function readLiveEvent(text: string): LiveEvent | null {
  try {
    const event: unknown = JSON.parse(text);
    return typeof event === 'object' && event !== null && 'kind' in event && kinds.has(String(event.kind)) ? (event as LiveEvent) : null;
  } catch {
    return null;
  }
}

const momentary: ReadonlySet<LiveKind> = new Set<LiveKind>(['presence', 'remote-command', 'remote-room', 'signed-out']);

/** What holds in its moment only: told late it would be wrong, and who comes asks for it. */
export const isMomentary = ({ kind }: LiveEvent): boolean => momentary.has(kind);

/** Whether a person's pages are told of an event. */
export const isToldTo = (event: LiveEvent, personId: number): boolean =>
  event.kind === 'remote-command' || event.kind === 'remote-room' || event.kind === 'making'
    ? event.personId === personId
    : event.kind !== 'signed-out';
