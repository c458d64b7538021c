import { keyName, parseKey, type Key } from '../../core/theory/key';
import type { Scale } from '../compose/harmony';
import type { AudioFormat, FileSpec, PackSpec, Player, StrayFile, Trouble } from '../catalogue';

const endings: Readonly<Record<AudioFormat | 'midi', string>> = {
  wav16: 'wav',
  wav24: 'wav',
  wav32f: 'wav',
  aiff16: 'aif',
  aiff24: 'aiff',
  flac: 'flac',
  ogg: 'ogg',
  midi: 'mid',
};

export interface LoopOptions {
  readonly tempo: number;
  readonly bars?: number;
  /** `D dorian`, `F minor`, `A major`; absent: unpitched. */
  readonly key?: string;
  readonly meter?: '4/4' | '3/4';
  readonly progression?: number;
  readonly pattern?: number;
  readonly swing?: number;
  readonly wanderMs?: number;
  readonly tone?: number;
  readonly wet?: number;
  readonly drive?: number;
  readonly mono?: boolean;
  readonly rateHz?: 48000;
  readonly trouble?: Trouble;
}

export function keyOf(text: string): { key: Key; scale: Scale } {
  const key = parseKey(text);
  if (!key) throw new RangeError(`no key: ${text}`);
  return { key, scale: text.includes('dorian') ? 'dorian' : key.mode };
}

/** `Dm`, `F#m`, `A` as vendors write keys in names. */
export const shortKey = (text: string): string => {
  const { key } = keyOf(text);
  const [tonic] = keyName(key).split(' ');
  return tonic.replace('♯', '#').replace('♭', 'b') + (key.mode === 'minor' ? 'm' : '');
};

/** Collects the files of one pack. */
export function startPack(head: Omit<PackSpec, 'files' | 'strays' | 'duplicates'>) {
  const files: FileSpec[] = [],
    strays: StrayFile[] = [],
    duplicates: [string, string][] = [];
  const add = (path: string, format: AudioFormat | 'midi', player: Player, spec: Omit<FileSpec, 'path' | 'format' | 'player'>) => {
    const full = `${path}.${endings[format]}`;
    files.push({ ...spec, path: full, format, player });
    return full;
  };
  return {
    /** A loop; `path` without ending. */
    loop(path: string, format: AudioFormat | 'midi', player: Player, instrument: string, o: LoopOptions): string {
      const keyed = o.key ? keyOf(o.key) : null;
      return add(path, format, player, {
        truth: {
          kind: player === 'mix' ? 'full-mix' : 'loop',
          tempoBpm: o.tempo,
          bars: o.bars ?? 4,
          meter: o.meter ?? '4/4',
          key: keyed?.key ?? null,
          instrument,
        },
        scale: keyed?.scale ?? 'minor',
        progression: o.progression ?? 0,
        pattern: o.pattern ?? 0,
        swing: o.swing ?? 0,
        wanderMs: o.wanderMs,
        tone: o.tone ?? 0.5,
        wet: o.wet ?? 0.12,
        drive: o.drive ?? 0.1,
        mono: o.mono,
        rateHz: o.rateHz,
        trouble: o.trouble ?? {},
      });
    },
    /** One hit, or with `heldSeconds` a phrase such as a riser. */
    sound(
      path: string,
      format: AudioFormat,
      player: 'single' | 'riser' | 'downlifter' | 'impact' | 'tones',
      instrument: string,
      o: {
        note?: number;
        key?: string;
        heldSeconds?: number;
        kind?: 'one-shot' | 'phrase';
        tone?: number;
        wet?: number;
        mono?: boolean;
        pattern?: number;
      },
    ): string {
      const keyed = o.key ? keyOf(o.key) : null;
      return add(path, format, player, {
        truth: { kind: o.kind ?? 'one-shot', tempoBpm: null, bars: null, meter: '4/4', key: keyed?.key ?? null, instrument },
        scale: keyed?.scale ?? 'minor',
        progression: 0,
        pattern: o.pattern ?? 0,
        swing: 0,
        tone: o.tone ?? 0.5,
        wet: o.wet ?? 0.1,
        drive: 0.05,
        mono: o.mono,
        trouble: {},
        note: o.note,
        heldSeconds: o.heldSeconds,
      });
    },
    stray(stray: StrayFile): void {
      strays.push(stray);
    },
    duplicate(copy: string, original: string): void {
      duplicates.push([copy, original]);
    },
    finish(): PackSpec {
      return { ...head, files, strays, duplicates };
    },
  };
}

export const two = (n: number): string => String(n).padStart(2, '0');
