import type { FitRequest } from '../arrangement/fit-request';
import { countedBeat } from '../formats/smf/counted-beat';
import { parseSmf, unsaidTempoBpm } from '../formats/smf/parse';
import { parseWav } from '../formats/wav/parse';
import { extractCycle } from '../stretch/cycle';
import { fitCycle, fitOnce } from '../stretch/fit';
import { moveLineIn } from '../stretch/moved-line';
import { noteVoice } from '../synth/note-voices';
import { playNotes } from '../synth/play';
import { playRows } from '../synth/play-rows';
import { framesPerBeat, projectRateHz } from '../units/time';

const ringFadeFrames = 441;

/**
 * The fitted buffer of a request, from the bytes of its sound (a float WAV at the project's rate, or a MIDI file). The one
 * place where browser and server make what is heard, so that both make the same. Always two channels. `loadTransforms` comes first.
 */
export function renderFitted(request: FitRequest, bytes: Uint8Array): Float32Array[] {
  const made = twoChannels(make(request, bytes));
  if (request.reverse) made.forEach((plane) => plane.reverse());
  return made;
}

function make(request: FitRequest, bytes: Uint8Array): Float32Array[] {
  switch (request.kind) {
    case 'notes':
    case 'notes-once':
      return makeNotes(request, bytes);
    case 'cycle': {
      const channels = withMovedNotes(parseWav(bytes).channels, request);
      return fitCycle(extractCycle(channels, request.startFrame, request.sourceFrames, request.tail), request.onsetFrames, request);
    }
    case 'once':
      return fitOnce(withMovedNotes(parseWav(bytes).channels, request), request.onsetFrames, request);
    case 'pattern':
      return playRows(request);
  }
}

/** A sound with the notes moved that are to be moved by themselves. */
function withMovedNotes(channels: readonly Float32Array[], { noteMoves = [] }: FitRequest): Float32Array[] {
  const moves = Array.from({ length: noteMoves.length / 3 }, (_, k) => ({
    fromFrame: noteMoves[3 * k],
    toFrame: noteMoves[3 * k + 1],
    semitones: noteMoves[3 * k + 2],
  }));
  return moveLineIn(channels, moves);
}

function makeNotes({ kind, beats, instrument, sourceFrames, targetFrames, shiftSemitones }: FitRequest, bytes: Uint8Array): Float32Array[] {
  const midi = parseSmf(bytes),
    cyclic = kind === 'notes',
    quarters = beats * countedBeat(midi).beatQuarters,
    made = playNotes({
      notes: cyclic ? midi.notes.filter((note) => note.startBeat < quarters) : midi.notes,
      instrument,
      quarterFrames: cyclic
        ? targetFrames / quarters
        : (framesPerBeat(midi.tempoBpm ?? unsaidTempoBpm, projectRateHz) * targetFrames) / sourceFrames,
      totalFrames: targetFrames,
      cyclic,
      shiftSemitones,
      rateHz: projectRateHz,
      voice: noteVoice(instrument),
    });
  // What still rings where a phrase ends goes softly.
  if (!cyclic)
    for (const plane of made)
      for (let i = 1, fade = Math.min(ringFadeFrames, targetFrames); i <= fade; i++) plane[targetFrames - i] *= (i - 1) / fade;
  return made;
}

const twoChannels = (channels: Float32Array[]): Float32Array[] =>
  channels.length >= 2 ? channels.slice(0, 2) : [channels[0], channels[0].slice()];
