import { holdCycle } from '../dsp/ceiling';
import { dbToRatio } from '../units/level';
import { stretchModeRow } from '../stretch/stretch-modes';
import { stretchSlices } from '../stretch/slicer';
import { stretchTonal } from '../stretch/vocoder';
import type { TimeMap } from '../stretch/time-map';
import { framesPerBeat, projectRateHz } from '../units/time';
import { framesOf, type BenchSound } from './bench-sound';

/** What was played by hand, drawn onto the grid. */
export interface GridStep {
  readonly kind: 'grid';
  /** 0 as it was played … 1 on the grid. */
  readonly strength: number;
  /** Steps of the grid in a beat: 2, 3, 4, 6, 8. */
  readonly stepsPerBeat: number;
  /** Where the second of two steps lies between them: 0.5 straight, ⅔ as triplets. */
  readonly swing: number;
  /** Hits that are moved by hand, in frames of the sound: from where they are to where they go, whatever the grid says. */
  readonly byHand: readonly { readonly fromFrame: number; readonly toFrame: number }[];
  /** Whether every attack stays as it is, or what is held goes on smoothly. */
  readonly keeps: 'hits' | 'tones';
}

/** A hit and where it goes, in frames. */
export interface Move {
  readonly fromFrame: number;
  readonly toFrame: number;
}

/** The line of the grid that is nearest to a frame, swung. @param beatFrames not whole in general */
export function gridFrameNear(frame: number, beatFrames: number, stepsPerBeat: number, swing: number): number {
  const step = beatFrames / stepsPerBeat,
    pair = Math.floor(frame / (2 * step)),
    lines = [0, 2 * swing * step, 2 * step].map((line) => pair * 2 * step + line);
  return lines.reduce((best, line) => (Math.abs(line - frame) < Math.abs(best - frame) ? line : best));
}

/** Where each hit of a sound goes; of two that would come to the same place the later keeps its distance. */
export function gridMoves(sound: Omit<BenchSound, 'channels'>, totalFrames: number, step: GridStep): Move[] {
  const { tempoBpm, startFrame, onsetFrames } = sound;
  if (!tempoBpm) return [];
  const beatFrames = framesPerBeat(tempoBpm, projectRateHz),
    hits = [...new Set(onsetFrames.map(Math.round))].filter((frame) => frame >= 0 && frame < totalFrames).sort((a, b) => a - b),
    hand = new Map(step.byHand.map(({ fromFrame, toFrame }) => [fromFrame, toFrame])),
    moves: Move[] = [];
  for (const fromFrame of hits) {
    const line = startFrame + gridFrameNear(fromFrame - startFrame, beatFrames, step.stepsPerBeat, step.swing),
      wanted = hand.get(fromFrame) ?? fromFrame + step.strength * (line - fromFrame),
      last = moves.at(-1),
      least = last ? last.toFrame + Math.min(fromFrame - last.fromFrame, 220) : -Infinity;
    moves.push({ fromFrame, toFrame: Math.round(Math.max(wanted, least)) });
  }
  // What would come before the start comes round from the end, in front of which there must be room.
  const [first] = moves,
    last = moves.at(-1);
  return first && last && last.toFrame - first.toFrame >= totalFrames ? [] : moves;
}

/** Straight between hits, cyclic, for what is held between them. */
function mapOf(moves: readonly Move[], total: number): TimeMap {
  const from = [...moves.map(({ fromFrame }) => fromFrame), moves[0].fromFrame + total],
    to = [...moves.map(({ toFrame }) => toFrame), moves[0].toFrame + total];
  const along = (xs: readonly number[], ys: readonly number[]) => (at: number) => {
    const round = Math.floor((at - xs[0]) / total),
      within = at - round * total;
    let k = xs.findIndex((x) => x > within) - 1;
    if (k < 0) k = xs.length - 2;
    return ys[k] + ((within - xs[k]) / (xs[k + 1] - xs[k])) * (ys[k + 1] - ys[k]) + round * total;
  };
  return { sourceFrames: total, targetFrames: total, toTarget: along(from, to), toSource: along(to, from) };
}

const peakOf = (planes: readonly Float32Array[]): number =>
  planes.reduce((most, plane) => plane.reduce((peak, value) => Math.max(peak, Math.abs(value)), most), 0);

/** Draws what was played onto the grid: hits with their attacks untouched, or what is held smoothly. Without a tempo, or hits, it stays what it is. */
export function toGrid(sound: BenchSound, step: GridStep): BenchSound {
  const total = framesOf(sound),
    moves = gridMoves(sound, total, step);
  if (moves.length === 0 || moves.every(({ fromFrame, toFrame }) => fromFrame === toFrame)) return sound;
  const room = sound.isCycle ? 0 : 32768,
    padded =
      room === 0 ? sound.channels : sound.channels.map((plane) => Float32Array.from({ length: total + room }, (_, i) => plane[i] ?? 0)),
    hits = { frames: moves.map(({ fromFrame }) => fromFrame), places: moves.map(({ toFrame }) => toFrame) },
    sizes = { sourceFrames: total + room, targetFrames: total + room },
    made = step.keeps === 'hits' ? stretchSlices(padded, hits, sizes) : stretchTonal(padded, mapOf(moves, total + room));
  // Held partials part from each other and meet again elsewhere: by no more than where all of it is stretched.
  holdCycle(made, peakOf(sound.channels) * dbToRatio(stretchModeRow(step.keeps === 'hits' ? 'percussive' : 'tonal').mostPeakGrowthDb));
  return { ...sound, channels: made.map((plane) => plane.slice(0, total)), onsetFrames: hits.places.map((frame) => Math.max(0, frame)) };
}
