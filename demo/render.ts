import type { Note } from '../core/formats/smf/parse';
import type { PcmAudio } from '../core/formats/pcm';
import { writeSmf } from '../core/formats/smf/write';
import { removeDc, room, saturate, scaleToPeak } from '../core/synth/effects';
import { kit } from '../core/synth/kit';
import { addPanned, playNotes, voiceByInstrument } from '../core/synth/play';
import { createRandom, seedFromText } from '../core/synth/random';
import { downlifter, impact, riser, texture } from '../core/synth/voices/effects';
import type { Voice } from '../core/synth/voice';
import { noteToHz } from '../core/units/pitch';
import { beatsPerBar, framesPerBeat } from '../core/units/time';
import { programOfInstrument } from '../core/theory/programs';
import { fifthsPosition } from '../core/theory/key';
import type { FileSpec, Player } from './catalogue';
import { chordsOf } from './compose/harmony';
import {
  playArp,
  playBass,
  playChords,
  playDrums,
  playKick,
  playMelody,
  playPad,
  playPercussion,
  playStabs,
  playTops,
  type Part,
} from './compose/players';

type Stereo = [Float32Array, Float32Array];

const players: Partial<Readonly<Record<Player, (part: Part) => Note[]>>> = {
  drums: playDrums,
  tops: playTops,
  kick: playKick,
  shaker: playPercussion('shaker'),
  tambourine: playPercussion('tambourine'),
  conga: playPercussion('conga'),
  woodblock: playPercussion('woodblock'),
  bell: playPercussion('bell'),
  table: playPercussion('table'),
  bass: playBass('line'),
  walk: playBass('walk'),
  longbass: playBass('long'),
  comp: playChords({ centre: 60, hold: 0.8 }),
  strum: playChords({ centre: 57, hold: 0.9, strumBeats: 0.025 }),
  pad: playPad(60),
  arp8: playArp(62, 2),
  arp16: playArp(64, 4),
  melody: playMelody(69),
  stabs: playStabs(62),
};

function partOf(spec: FileSpec, random: () => number): Part {
  const barBeats = beatsPerBar(spec.truth.meter),
    bars = spec.truth.bars ?? 1,
    key = spec.truth.key ?? { tonic: 0, mode: 'minor' as const };
  return {
    chords: chordsOf(key, spec.scale, spec.progression, bars, barBeats),
    tonic: key.tonic,
    scale: spec.scale,
    bars,
    barBeats,
    swing: spec.swing,
    random,
    pattern: spec.pattern,
  };
}

/** The notes of a loop, beats from its start. */
export function composeNotes(spec: FileSpec): Note[] {
  const compose = players[spec.player];
  if (!compose) throw new RangeError(`no player ${spec.player}`);
  const notes = compose(partOf(spec, createRandom(seedFromText(spec.path.replace(/^MIDI\/|\.\w+$/g, '')))));
  return spec.wanderMs ? wandering(notes, spec.truth, spec.wanderMs) : notes;
}

/** Notes of a player who is late by up to `wanderMs` in the first half and early in the second, and on time at both ends. */
function wandering(notes: readonly Note[], { tempoBpm, bars, meter }: FileSpec['truth'], wanderMs: number): Note[] {
  const beats = (bars ?? 1) * beatsPerBar(meter),
    most = ((tempoBpm ?? 120) / 60) * (wanderMs / 1000);
  return notes.map((note) => ({ ...note, startBeat: note.startBeat + most * Math.sin((2 * Math.PI * note.startBeat) / beats) }));
}

/** MIDI bytes of a note loop, with tempo, meter and key as meta events. */
export function renderMidi(spec: FileSpec): Uint8Array {
  const { truth } = spec,
    notes = composeNotes(spec);
  const position = truth.key ? fifthsPosition(truth.key) : 0;
  return writeSmf({
    notes,
    lengthBeats: (truth.bars ?? 1) * beatsPerBar(truth.meter),
    tempoBpm: truth.tempoBpm ?? 120,
    meter: truth.meter,
    program: programOfInstrument(truth.instrument) ?? 0,
    name: truth.instrument,
    keySignature: truth.key ? { sharps: position > 6 ? position - 12 : position, minor: truth.key.mode === 'minor' } : undefined,
  });
}

/** The sound of a file, before encoding; the same for the same spec. */
export function renderAudio(spec: FileSpec): PcmAudio {
  const sampleRateHz = spec.rateHz ?? 44100;
  const sound =
    spec.truth.tempoBpm === null
      ? renderSingle(spec, sampleRateHz)
      : spec.player === 'mix'
        ? renderMix(spec, sampleRateHz)
        : renderLoop(spec, sampleRateHz);
  removeDc(sound);
  scaleToPeak(sound, spec.trouble.peakDbfs ?? peakOf(spec));
  return { sampleRateHz, channels: spec.mono ? [sound[0].map((left, i) => (left + sound[1][i]) / 2)] : sound };
}

/** Vendors deliver at different levels: −1.5 to −7 dBFS, fixed for each file. */
const peakOf = (spec: FileSpec): number => -1.5 - (seedFromText(spec.path) % 56) / 10;

function renderLoop(spec: FileSpec, rateHz: number): Stereo {
  const { trouble, truth } = spec;
  const beats = (truth.bars ?? 1) * beatsPerBar(truth.meter),
    quarterFrames = framesPerBeat(truth.tempoBpm ?? 120, rateHz),
    loopFrames = Math.round(beats * quarterFrames);
  const lead = Math.round((trouble.leadSeconds ?? 0) * rateHz),
    tail = Math.round((trouble.tailSeconds ?? 0) * rateHz);
  const cyclic = lead + tail === 0;
  const body: Stereo =
    spec.player === 'texture'
      ? renderTexture(spec, loopFrames, rateHz)
      : playNotes({
          notes: composeNotes(spec),
          instrument: truth.instrument,
          quarterFrames,
          totalFrames: loopFrames + tail,
          cyclic,
          shiftSemitones: 0,
          rateHz,
          tone: spec.tone,
          seed: seedFromText(spec.path),
        });
  scaleToPeak(body, -3);
  saturate(body, spec.drive);
  room(body, rateHz, spec.wet, 0.5 + spec.wet * 3, cyclic);
  if (!cyclic) fadeEnd(body, Math.min(tail || 441, Math.round(0.2 * rateHz)));
  return lead === 0
    ? body
    : (body.map((plane) => {
        const longer = new Float32Array(plane.length + lead);
        longer.set(plane, lead);
        return longer;
      }) as Stereo);
}

function renderTexture(spec: FileSpec, frames: number, rateHz: number): Stereo {
  const sides = [0, 1].map((side) =>
    texture({
      hz: 200,
      velocity: 0.9,
      heldSeconds: frames / rateHz,
      rateHz,
      tone: spec.tone,
      random: createRandom(seedFromText(spec.path) + side),
    }),
  );
  // Noise does not repeat: its last half second is faded into what came before its start.
  return sides.map((plane) => {
    const out = plane.slice(0, frames),
      fade = Math.round(rateHz / 2);
    for (let i = 0; i < fade; i++) {
      const mix = i / fade;
      out[frames - fade + i] = out[frames - fade + i] * Math.sqrt(1 - mix) + (i === 0 ? 0 : out[fade - i] * Math.sqrt(mix));
    }
    return out;
  }) as Stereo;
}

/** A little complete piece, such as vendors put among the loops. */
function renderMix(spec: FileSpec, rateHz: number): Stereo {
  const layers: [Player, string, number][] = [
    ['drums', 'kit', 0.8],
    ['bass', 'electric-bass', 0.9],
    ['comp', 'electric-piano', 0.6],
    ['pad', 'strings', 0.35],
    ['melody', 'synth-lead', 0.4],
  ];
  let out: Stereo | null = null;
  for (const [player, instrument, gain] of layers) {
    const layer = renderLoop({ ...spec, player, path: `${spec.path}/${player}`, truth: { ...spec.truth, instrument }, drive: 0.1 }, rateHz);
    if (!out) out = layer.map((plane) => new Float32Array(plane.length)) as Stereo;
    for (let side = 0; side < 2; side++) for (let i = 0; i < out[side].length; i++) out[side][i] += layer[side][i] * gain;
  }
  return out as Stereo;
}

const effectVoices: Partial<Readonly<Record<Player, Voice>>> = { riser, downlifter, impact };

function renderSingle(spec: FileSpec, rateHz: number): Stereo {
  const note = spec.note ?? 60,
    piece = spec.player === 'single' ? kit[note] : null;
  const chosen = piece?.voice ?? effectVoices[spec.player] ?? voiceByInstrument[spec.truth.instrument];
  const sound = chosen({
    hz: piece?.hz ?? noteToHz(note),
    velocity: 0.95,
    heldSeconds: spec.heldSeconds ?? 0.3,
    rateHz,
    tone: spec.tone,
    random: createRandom(seedFromText(spec.path)),
  });
  const tail = Math.round(rateHz * (spec.wet > 0.15 ? 0.6 : 0.15));
  const out: Stereo = [new Float32Array(sound.length + tail), new Float32Array(sound.length + tail)];
  addPanned(out, sound, 0, 1, 0, false);
  room(out, rateHz, spec.wet, 0.7, false);
  fadeEnd(out, Math.min(out[0].length, Math.round(0.05 * rateHz)));
  return out;
}

function fadeEnd(sound: Stereo, frames: number): void {
  for (const plane of sound) for (let i = 0; i < frames; i++) plane[plane.length - 1 - i] *= i / frames;
}
