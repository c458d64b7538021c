import type { FitRequest } from '../arrangement/fit-request';
import { parseSmf } from '../formats/smf/parse';
import { parseWav } from '../formats/wav/parse';
import { extractCycle } from '../stretch/cycle';
import { fitCycle } from '../stretch/fit';
import { resampleLap } from '../dsp/resample';
import { playNotes } from '../synth/play';
import { semitonesToRatio } from '../units/pitch';
import { projectRateHz, quartersPerBeat } from '../units/time';

/**
 * The fitted buffer of a request, from the bytes of its sound (a float WAV at the project's rate, or a MIDI file). The one
 * place where browser and server make what is heard, so that both make the same. Always two channels. `loadTransforms` comes first.
 */
export function makeFitted(request: FitRequest, bytes: Uint8Array): Float32Array[] {
  const made = twoChannels(make(request, bytes));
  if (request.reverse) made.forEach((plane) => plane.reverse());
  return made;
}

function make(request: FitRequest, bytes: Uint8Array): Float32Array[] {
  if (request.kind === 'notes') {
    const midi = parseSmf(bytes);
    const quarters = request.beats * quartersPerBeat(midi.meter ?? '4/4');
    return playNotes({
      notes: midi.notes.filter((note) => note.startBeat < quarters),
      instrument: request.instrument,
      quarterFrames: request.targetFrames / quarters,
      totalFrames: request.targetFrames,
      cyclic: true,
      shiftSemitones: request.shiftSemitones,
      rateHz: projectRateHz,
    });
  }
  const { channels } = parseWav(bytes);
  if (request.kind === 'lap')
    return fitCycle(extractCycle(channels, request.startFrame, request.sourceFrames, request.tail), request.onsetFrames, request);
  if (request.shiftSemitones === 0) return channels.map((plane) => plane.slice());
  // What plays once is moved like a tape: pitch and length together.
  const frames = Math.max(1, Math.round(channels[0].length / semitonesToRatio(request.shiftSemitones)));
  return resampleLap(channels, frames);
}

const twoChannels = (channels: Float32Array[]): Float32Array[] =>
  channels.length >= 2 ? channels.slice(0, 2) : [channels[0], channels[0].slice()];
