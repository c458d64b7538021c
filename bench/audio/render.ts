import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Note } from '../../core/formats/smf/parse';
import { saturate, scaleToPeak } from '../../core/synth/effects';
import { addPanned, playNotes } from '../../core/synth/play';
import { createRandom, seedFromText } from '../../core/synth/random';
import { kit } from '../../core/synth/kit';
import { framesPerBeat } from '../../core/units/time';
import { chordsOf } from '../../demo/compose/harmony';
import * as players from '../../demo/compose/players';
import type { Chance } from '../../training/material/chance';
import { programs, renderWithFont, type FontJob } from '../../training/material/fonts';
import { loadRecorded, recordedHits } from '../../training/material/recorded';
import type { LayerSpec, LoopSpec } from './loops';

export type Stereo = [Float32Array, Float32Array];
const rateHz = 44100,
  font = 'fluid';

const playerOf: Readonly<Record<string, (part: players.Part) => Note[]>> = {
  drums: players.playDrums,
  tops: players.playTops,
  conga: players.playPercussion('conga'),
  bell: players.playPercussion('bell'),
  table: players.playPercussion('table'),
  shaker: players.playPercussion('shaker'),
  bass: players.playBass('line'),
  walk: players.playBass('walk'),
  longbass: players.playBass('long'),
  comp: players.playChords({ centre: 60, hold: 0.8 }),
  strum: players.playChords({ centre: 57, hold: 0.9, strumBeats: 0.025 }),
  pad: players.playPad(60),
  arp8: players.playArp(62, 2),
  arp16: players.playArp(64, 4),
  melody: players.playMelody(67),
};

const isDrum = (note: Note): boolean => note.channel === 9;

export function notesOf(spec: LoopSpec, { player, pattern }: LayerSpec): Note[] {
  const notes = playerOf[player]({
    chords: chordsOf(spec.key, spec.scale, pattern, spec.bars, 4),
    tonic: spec.key.tonic,
    scale: spec.scale,
    bars: spec.bars,
    barBeats: 4,
    swing: spec.swing,
    random: createRandom(seedFromText(`${spec.name}/${player}`)),
    pattern,
  });
  // Players are tight here: two sounds a few milliseconds apart are one attack to a slicer, and two to a truth at another tempo.
  if (spec.material === 'mixed' || notes.some(isDrum))
    return notes.map((note) => ({ ...note, startBeat: Math.round(note.startBeat * 24) / 24 }));
  // A sung line lies where voices lie.
  return player === 'longbass' ? notes.map((note) => ({ ...note, pitch: note.pitch + 24 })) : notes;
}

/** One loop to be played, at a tempo and moved by semitones (drums never are). */
export interface Take {
  readonly spec: LoopSpec;
  readonly tempoBpm: number;
  readonly shiftSemitones: number;
}

export interface Rendered {
  readonly sound: Stereo;
  /** Frame at which each struck note begins, ascending; near ones are one. */
  readonly hitFrames: readonly number[];
}

/**
 * Plays every take as a loop: what rings on behind the end sounds at the start. The same notes, the same instruments: a take at the
 * target tempo is the exact truth for a stretched one.
 */
export async function renderTakes(takes: readonly Take[]): Promise<Rendered[]> {
  const folder = mkdtempSync(join(tmpdir(), 'garnetfinch-bench-'));
  try {
    const fontSounds = renderFontLayers(takes, folder);
    const drums = renderFontDrums(takes, folder);
    const out: Rendered[] = [];
    for (const take of takes) out.push(await renderTake(take, fontSounds, drums));
    return out;
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

const layerId = (take: Take, index: number): string => `${take.spec.name}/${index}@${take.tempoBpm}+${take.shiftSemitones}`;

function renderFontLayers(takes: readonly Take[], folder: string): Map<string, Stereo> {
  const ids: string[] = [],
    jobs: FontJob[] = [];
  for (const take of takes)
    take.spec.layers.forEach((layer, index) => {
      const notes = notesOf(take.spec, layer);
      if (layer.source !== 'font' || notes.some(isDrum)) return;
      const beats = take.spec.bars * 4,
        program = (programs[layer.instrument] ?? [0])[layer.variant];
      ids.push(layerId(take, index));
      jobs.push({
        // Two cycles, of which the second is kept: it has the first one's tails in it.
        parts: [
          {
            instrument: layer.instrument,
            gain: 1,
            notes: [0, beats].flatMap((later) =>
              notes.map((note) => ({ ...note, startBeat: note.startBeat + later, pitch: note.pitch + take.shiftSemitones })),
            ),
          },
        ],
        quarterSeconds: 60 / take.tempoBpm,
        seconds: (2 * beats * 60) / take.tempoBpm,
        cents: 0,
        varied: false,
        chance: { pick: () => program, whole: () => 64 } as unknown as Chance,
      });
    });
  if (!jobs.length) return new Map();
  return new Map(renderWithFont(font, jobs, folder, rateHz).map((sound, k) => [ids[k], sound]));
}

/** A font's drum notes one by one: fonts begin notes on a raster of 64 frames, too coarse for measuring hits. */
function renderFontDrums(takes: readonly Take[], folder: string): Map<string, Float32Array> {
  const wanted = new Map<string, Note>();
  for (const { spec } of takes)
    for (const layer of spec.layers)
      if (layer.source === 'font')
        for (const note of notesOf(spec, layer))
          if (isDrum(note)) wanted.set(`${note.pitch}/${note.velocity}`, { ...note, startBeat: 0, lengthBeats: 1 });
  if (!wanted.size) return new Map();
  const sounds = renderWithFont(
    font,
    [...wanted.values()].map((note) => ({
      parts: [{ instrument: 'kit', gain: 1, notes: [note] }],
      quarterSeconds: 1,
      seconds: 1.6,
      cents: 0,
      varied: false,
      chance: { pick: () => 0, whole: () => 64 } as unknown as Chance,
    })),
    folder,
    rateHz,
  );
  return new Map(
    sounds.map(([left, right], k) => {
      const mono = left.map((value, i) => (value + right[i]) / 2);
      return [[...wanted.keys()][k], fromItsStart(mono)];
    }),
  );
}

/** A struck sound from 1 ms before it has a twentieth of its peak: what creeps in before that is not where it is felt. */
function fromItsStart(sound: Float32Array): Float32Array {
  let peak = 0;
  for (const value of sound) peak = Math.max(peak, Math.abs(value));
  const start = Math.max(0, sound.findIndex((value) => Math.abs(value) > peak / 20) - 44),
    out = sound.slice(start);
  for (let i = 0; i < 44 && i < out.length; i++) out[i] *= i / 44;
  return out;
}

const recordedByKit = new Map<number, Map<number, Float32Array>>();
const kitNames = ['Audiophob', 'BJA_Pacific', 'circAfrique v4', 'rumpf_kit_z01_h2'];

/** A recorded kit: for each key the first sound that fits. */
async function recordedPiece(variant: number, pitch: number): Promise<Float32Array> {
  let kept = recordedByKit.get(variant);
  if (!kept) recordedByKit.set(variant, (kept = new Map()));
  let sound = kept.get(pitch);
  if (!sound) {
    const wanted =
      pitch === 36
        ? 'kick'
        : [38, 39, 37].includes(pitch)
          ? 'snare'
          : pitch >= 60 && pitch <= 64
            ? 'conga'
            : pitch >= 41 && pitch <= 50 && ![42, 44, 46, 49].includes(pitch)
              ? 'toms'
              : 'hats';
    const fitting = recordedHits().filter(({ instrument, file }) => instrument === wanted && file.includes(kitNames[variant])),
      chosen = fitting[pitch % Math.max(1, fitting.length)] ?? recordedHits().find(({ instrument }) => instrument === wanted);
    sound = (chosen && (await loadRecorded(chosen))) ?? new Float32Array(1);
    sound = fromItsStart(sound);
    const longest = Math.min(sound.length, Math.round((wanted === 'hats' ? 0.5 : 0.9) * rateHz));
    sound = sound.slice(0, longest);
    for (let i = 0; i < 2000 && i < longest; i++) sound[longest - 1 - i] *= i / 2000;
    kept.set(pitch, sound);
  }
  return sound;
}

/** The second of two cycles; its last 50 ms go over to the first one's, which lead into it: what wavers does not tear at the seam. */
function secondCycle(cycles: Stereo, totalFrames: number): Stereo {
  const from = cycles[0].length - totalFrames,
    fade = 2205;
  return cycles.map((plane) => {
    const cycle = plane.slice(from);
    for (let i = 0; i < fade; i++) {
      const mix = (i + 1) / fade;
      cycle[totalFrames - fade + i] = cycle[totalFrames - fade + i] * (1 - mix) + plane[from - fade + i] * mix;
    }
    return cycle;
  }) as Stereo;
}

async function renderTake(
  take: Take,
  fontSounds: ReadonlyMap<string, Stereo>,
  drums: ReadonlyMap<string, Float32Array>,
): Promise<Rendered> {
  const { spec, tempoBpm, shiftSemitones } = take,
    beats = spec.bars * 4,
    totalFrames = Math.round(beats * framesPerBeat(tempoBpm, rateHz)),
    quarterFrames = totalFrames / beats,
    sound: Stereo = [new Float32Array(totalFrames), new Float32Array(totalFrames)],
    hits: number[] = [];
  for (const [index, layer] of spec.layers.entries()) {
    const notes = notesOf(spec, layer);
    let made: Stereo = [new Float32Array(totalFrames), new Float32Array(totalFrames)];
    for (const note of notes) if (isDrum(note)) hits.push(Math.round(note.startBeat * quarterFrames));
    if (layer.source === 'own')
      made = playNotes({
        notes,
        instrument: layer.instrument,
        quarterFrames,
        totalFrames,
        cyclic: true,
        shiftSemitones,
        rateHz,
        tone: spec.tone,
        seed: seedFromText(spec.name),
      });
    else if (notes.some(isDrum))
      for (const note of notes) {
        const piece =
            layer.source === 'font' ? drums.get(`${note.pitch}/${note.velocity}`) : await recordedPiece(layer.variant, note.pitch),
          level = layer.source === 'font' ? 3 : (note.velocity / 127) ** 1.4;
        if (piece)
          addPanned(
            made,
            piece,
            Math.round(note.startBeat * quarterFrames),
            level * (layer.source === 'font' ? 1 : (kit[note.pitch]?.gain ?? 0.6)),
            kit[note.pitch]?.pan ?? 0,
            true,
          );
      }
    else {
      made = secondCycle(fontSounds.get(layerId(take, index)) as Stereo, totalFrames);
    }
    scaleToPeak(made, -6);
    for (let side = 0; side < 2; side++) for (let i = 0; i < totalFrames; i++) sound[side][i] += made[side][i] * layer.gain;
  }
  scaleToPeak(sound, -3);
  saturate(sound, spec.drive);
  scaleToPeak(sound, -3);
  hits.sort((a, b) => a - b);
  return { sound, hitFrames: hits.filter((frame, k) => k === 0 || frame - hits[k - 1] > 0.01 * rateHz) };
}
