import { expect, type Page } from '@playwright/test';
import type { Edit } from '../../core/arrangement/edit';
import { newClip, newTrack } from '../../core/arrangement/tree';
import { noteToHz } from '../../core/units/pitch';
import { mixdownFrom } from './mixdown';
import { editBy, layPiece, tracksOf, saved } from './piece';
import { correct, importFiles, rateHz, wavOf } from './support';

/** Of all that is struck here. */
export const tempoBpm = 120,
  beat = 60 / tempoBpm,
  bar = 4 * beat;

/** Tones struck on every beat, two bars long: what each of them plays, as a WAV. */
export const struck = (notes: readonly number[], level = 0.25): Uint8Array =>
  wavOf(2 * bar, (t) => {
    const into = t % beat;
    return notes.reduce(
      (sum, note) =>
        sum +
        level *
          Math.min(1, into / 0.004) *
          Math.exp(-into * 2) *
          Math.min(1, (beat - into) / 0.01) *
          (Math.sin(2 * Math.PI * noteToHz(note) * into) + 0.3 * Math.sin(4 * Math.PI * noteToHz(note) * into)),
      0,
    );
  });
/** Eight knocks a bar, two bars long. */
export const knocks = wavOf(2 * bar, (t) => {
  const into = t % (beat / 2);
  return 0.5 * Math.exp(-into * 60) * Math.sin(2 * Math.PI * 180 * into + 40 * Math.exp(-into * 90));
});

/** How much of a note is in a stretch of sound, as an amplitude. */
export function amountOf(samples: Float32Array, note: number): number {
  let re = 0,
    im = 0;
  const turn = (2 * Math.PI * noteToHz(note)) / rateHz;
  for (let i = 0; i < samples.length; i++) {
    const window = 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / samples.length);
    re += samples[i] * window * Math.cos(turn * i);
    im += samples[i] * window * Math.sin(turn * i);
  }
  return Math.hypot(re, im) / samples.length;
}
/** The strongest of some notes. */
export const strongest = (samples: Float32Array, from: number, to: number): number =>
  Array.from({ length: to - from + 1 }, (_, k) => from + k).reduce((best, note) =>
    amountOf(samples, note) > amountOf(samples, best) ? note : best,
  );
/** The first beat of each bar: over several, tones that are struck anew would cancel each other. */
export const barsOf = (samples: Float32Array, count: number): Float32Array[] =>
  Array.from({ length: count }, (_, k) => samples.slice(Math.round(k * bar * rateHz) + 1500, Math.round((k * bar + beat) * rateHz) - 1500));

/** A loop of such a piece: what it sounds like, and what is said of it. */
export interface Part {
  readonly name: string;
  readonly bytes: Uint8Array;
  readonly chords?: string;
  readonly key?: string;
  readonly pan?: number;
}

/** A project of loops that were brought in for it, one a track, for some bars; what each plays is stated where it has chords. */
export async function pieceFrom(page: Page, name: string, parts: readonly Part[], bars: number, key = 'none'): Promise<void> {
  const stamp = Date.now().toString(36),
    ids = await importFiles(
      page.request,
      `Walk ${name} ${stamp}`,
      parts.map((part) => ({ path: `${part.name}_${tempoBpm}bpm.wav`, bytes: part.bytes })),
    );
  for (const part of parts)
    if (part.chords)
      expect(
        (
          await page.request.put(`/api/v1/loops/${ids.get(`${part.name}_${tempoBpm}bpm.wav`)}/chords`, { form: { chords: part.chords } })
        ).ok(),
      ).toBe(true);
  for (const part of parts)
    if (part.key) await correct(page.request, ids.get(`${part.name}_${tempoBpm}bpm.wav`) as number, 'key', part.key);
  await layPiece(
    page,
    { name: `Walk ${name} ${stamp}`, tempoBpm, key },
    parts.map((part, index): Edit => ({
      kind: 'add-track',
      index,
      track: newTrack({
        id: `track-${index}`,
        name: part.name.split('_')[0],
        colour: index,
        pan: part.pan ?? 0,
        clips: [
          newClip({
            id: `clip-${index}`,
            loopId: ids.get(`${part.name}_${tempoBpm}bpm.wav`) as number,
            startBeat: 0,
            lengthBeats: bars * 4,
          }),
        ],
      }),
    })),
  );
}

/** What some tracks play from bar 1, left and right. */
export async function heardOf(page: Page, tracks: readonly number[], bars: number): Promise<[Float32Array, Float32Array]> {
  const ids = (await tracksOf(page)).map(({ id }) => id),
    solo = (soloed: boolean) =>
      editBy(
        page,
        tracks.map((track) => ({ kind: 'set-track', trackId: ids[track], changes: { soloed } })),
      );
  await solo(true);
  const heard = await mixdownFrom(page, 0, bars * 4, tempoBpm);
  await solo(false);
  return heard;
}

/** What one track alone plays from bar 1. */
export const aloneFrom = async (page: Page, track: number, bars: number): Promise<Float32Array> => (await heardOf(page, [track], bars))[0];

/** Writes a line of chords in the panel of the harmony. */
export async function writeChords(page: Page, line: string): Promise<void> {
  const button = page.getByRole('button', { name: /^Harmony/ });
  if ((await button.getAttribute('aria-pressed')) === 'false') await button.click();
  const panel = page.getByRole('region', { name: 'Harmony' });
  await panel.getByLabel(/^Chords, one a bar/).fill(line);
  await panel.getByRole('button', { name: 'Set', exact: true }).click();
  await saved(page);
}

/** How far two sounds are apart at the most. */
export const maximumDifference = (a: Float32Array, b: Float32Array): number =>
  a.reduce((most, value, i) => Math.max(most, Math.abs(value - b[i])), 0);
