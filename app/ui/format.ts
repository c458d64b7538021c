import { families, instrumentById } from '~core/theory/instruments';
import { sureFrom } from '~core/analysis/facts';
import { chooseReading, keyShift, type LoopOutline } from '~core/arrangement/fit-request';
import { keyName, pitchClassName, type Key } from '~core/theory/key';
import { playbackRate } from '~core/units/time';

/** `124`, `124.6`, `—`. */
export const tempoText = (tempoBpm: number | null): string =>
  tempoBpm === null ? '—' : Math.abs(tempoBpm - Math.round(tempoBpm)) < 0.05 ? String(Math.round(tempoBpm)) : tempoBpm.toFixed(1);

/** `D minor`; `unpitched`, `no single key` and `unknown` are different words. */
export function keyText(source: Pick<LoopOutline, 'key' | 'pitched'>): string {
  return source.key ? keyName(source.key) : source.pitched === null ? 'unknown' : source.pitched ? 'no single key' : 'unpitched';
}

/** `Hats`; of what is heard to be of a family and no more, `Drums, which?`. */
export const instrumentText = ({ instrument, family }: Pick<LoopOutline, 'instrument' | 'family'>): string =>
  instrumentById(instrument)?.label ?? (family ? `${families[family].label}, which?` : 'unknown');

/** Doubt as a mark behind a value: nothing from 85 % on, `?` below, `??` below 55 %. */
export const doubtMark = (confidence: number | null): string =>
  confidence === null || confidence >= sureFrom ? '' : confidence >= 0.55 ? '?' : '??';

export const signed = (value: number, digits = 0): string => `${value < 0 ? '−' : value > 0 ? '+' : '±'}${Math.abs(value).toFixed(digits)}`;

/** What following the tempo does to a loop, in percent of speed; null without a tempo. */
export function stretchPercent(source: Pick<LoopOutline, 'tempoBpm'>, tempoBpm: number): number | null {
  return source.tempoBpm === null ? null : (playbackRate(source.tempoBpm * chooseReading(source.tempoBpm, tempoBpm), tempoBpm) - 1) * 100;
}

/** `no shift`, `up 2`, `down 3`; null when key does not matter to it. */
export function shiftText(source: Pick<LoopOutline, 'key' | 'pitched' | 'family'>, key: Key | null): string | null {
  if (!key || !source.key || source.pitched === false) return null;
  const shift = keyShift(source, key);
  return shift === 0 ? 'fits' : shift > 0 ? `up ${shift}` : `down ${-shift}`;
}

/** A triad: `Dm`, `C`. */
export const chordName = ({ root, minor }: { readonly root: number; readonly minor: boolean }): string =>
  `${pitchClassName(root)}${minor ? 'm' : ''}`;

export const barsText = (bars: number | null): string => (bars === null ? '—' : Number.isInteger(bars) ? String(bars) : bars.toFixed(1));

export const secondsText = (seconds: number): string =>
  seconds < 60 ? `${seconds.toFixed(1)} s` : `${Math.floor(seconds / 60)}:${String(Math.round(seconds % 60)).padStart(2, '0')}`;

/** How long a loop is: `4 bars`, `1 bar of 3/4`, `4 bars of 5 beats` in a meter without a name; of what has no bars its seconds. */
export function lengthWords({
  bars,
  meter,
  lengthSeconds,
  barBeats,
}: {
  readonly bars: number | null;
  readonly meter: string | null;
  readonly lengthSeconds: number;
  readonly barBeats: number;
}): string {
  if (bars === null) return secondsText(lengthSeconds);
  const words = `${barsText(bars)} ${bars === 1 ? 'bar' : 'bars'}`;
  if (meter === null || meter === '4/4') return words;
  return `${words} of ${meter === 'unknown' ? `${barBeats} beats` : meter}`;
}
