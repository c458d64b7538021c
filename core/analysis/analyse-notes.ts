import { beatsToSeconds } from '../units/time';
import { countedBeat } from '../formats/smf/counted-beat';
import type { MidiFile } from '../formats/smf/parse';
import { instrumentOfProgram } from '../theory/programs';
import { keyName, type Key } from '../theory/key';
import { pitchClass } from '../units/pitch';
import { overviewColumns, type Analysis } from './analysis';
import { evidenceFromPath } from './evidence/from-names';
import { withQuarters } from './evidence/quarters';
import type { KeyValue } from './attributes/key';
import { evidence, type Evidence } from './facts';
import { keyCorrelations } from './key/profiles';
import { labelsOfNames } from './labels';
import { isKnownMeter } from './tempo/candidates';
import type { Reading } from './tempo/read-rhythm';
import { drumChannel, writtenDetail } from './written/written-detail';

/** The facts of a note loop: exact where the notes say so, evidence like any other where they don't. */
export function analyseNotes(midi: MidiFile, path: string): Analysis {
  const meter = midi.meter ?? '4/4',
    { barBeats, beatQuarters, tempoBpm } = countedBeat(midi),
    lastBeat = midi.notes.reduce((last, note) => Math.max(last, note.startBeat + note.lengthBeats), midi.lengthBeats) / beatQuarters,
    bars = Math.max(1, Math.ceil(lastBeat / barBeats - 0.02)),
    reading: Reading = {
      tempoBpm,
      bars,
      beats: bars * barBeats,
      meter: isKnownMeter(meter) ? meter : 'unknown',
      startSeconds: 0,
      probability: 1,
    };
  const found: Evidence[] = [...withQuarters(evidenceFromPath(path), [reading]), ...labelsOfNames({ path, genreTag: null })];
  found.push(
    evidence(
      'tempo',
      'notes',
      [{ value: tempoBpm, probability: midi.tempoBpm ? 0.98 : 0.3 }],
      midi.tempoBpm
        ? `tempo event says ${midi.tempoBpm.toFixed(1)}${beatQuarters === 1 ? '' : ' quarters'}`
        : 'no tempo in the file; notes follow any',
    ),
  );
  found.push(
    evidence('meter', 'notes', [{ value: meter, probability: midi.meter ? 0.98 : 0.8 }], midi.meter ? `meter event says ${meter}` : ''),
  );
  found.push(
    evidence('beats', 'notes', [{ value: bars * barBeats, probability: 0.97 }], `notes fill ${bars} ${bars === 1 ? 'bar' : 'bars'}`),
  );
  found.push(
    evidence('kind', 'notes', [{ value: midi.notes.length > 1 ? 'loop' : 'one-shot', probability: 0.95 }], `${midi.notes.length} notes`),
  );
  found.push(...keyEvidence(midi));
  const drums = midi.notes.every((note) => note.channel === drumChannel);
  const program = midi.programs[midi.notes[0].channel] ?? -1,
    played = instrumentOfProgram(program);
  if (drums) found.push(evidence('instrument', 'notes', [{ value: 'kit', probability: 0.9 }], 'notes are on the drum channel'));
  // The first program is what files have that nobody chose one for.
  else if (played)
    found.push(evidence('instrument', 'tag', [{ value: played, probability: program === 0 ? 0.3 : 0.8 }], `program ${program + 1}`));
  const lengthSeconds = beatsToSeconds(bars * barBeats, tempoBpm);
  return {
    evidence: found,
    measures: {
      lengthSeconds,
      firstBarSeconds: 0,
      soundEndSeconds: lengthSeconds,
      loudnessLufs: null,
      peakDbfs: null,
      overview: notesOverview(midi, bars * barBeats * beatQuarters),
      onsetFrames: [],
      faintFrames: [],
      tuningCents: 0,
      chroma: noteWeights(midi),
      likeness: null,
      fingerprint: new Uint32Array(0),
      detail: writtenDetail(midi, reading, beatQuarters),
    },
  };
}

function noteWeights(midi: MidiFile, below = 128): number[] {
  const weights = new Array<number>(12).fill(0);
  for (const note of midi.notes)
    if (note.channel !== drumChannel && note.pitch < below) weights[pitchClass(note.pitch)] += note.lengthBeats * note.velocity;
  const sum = weights.reduce((a, b) => a + b, 0);
  return sum > 0 ? weights.map((weight) => weight / sum) : weights;
}

function keyEvidence(midi: MidiFile): Evidence[] {
  const weights = noteWeights(midi);
  if (weights.every((weight) => weight === 0))
    return [evidence('key', 'notes', [{ value: 'unpitched', probability: 0.98 }], 'drum notes only')];
  const found: Evidence[] = [];
  const signature = midi.keySignature;
  if (signature) {
    const key: Key = { tonic: pitchClass(signature.sharps * 7 + (signature.minor ? 9 : 0)), mode: signature.minor ? 'minor' : 'major' };
    // Writers that know nothing of the key often write C major.
    found.push(
      evidence(
        'key',
        'tag',
        [{ value: key, probability: signature.sharps === 0 && !signature.minor ? 0.5 : 0.9 }],
        `key event says ${keyName(key)}`,
      ),
    );
  }
  const scored = keyCorrelations(weights, noteWeights(midi, 55)).map(({ key, correlation }) => ({
    value: key as KeyValue,
    weight: Math.exp(correlation * 12),
  }));
  const total = scored.reduce((sum, each) => sum + each.weight, 0);
  found.push(
    evidence(
      'key',
      'notes',
      scored
        .map(({ value, weight }) => ({ value, probability: weight / total }))
        .sort((a, b) => b.probability - a.probability)
        .slice(0, 8),
      'notes written',
    ),
  );
  return found;
}

/** A picture in place of a waveform: the velocity of what sounds, by column. */
function notesOverview(midi: MidiFile, quarters: number): Uint8Array {
  const columns = new Uint8Array(overviewColumns);
  for (const note of midi.notes) {
    const from = Math.floor((note.startBeat / quarters) * overviewColumns),
      to = Math.max(from + 1, Math.floor(((note.startBeat + note.lengthBeats) / quarters) * overviewColumns));
    for (let column = Math.max(0, from); column < Math.min(overviewColumns, to); column++)
      columns[column] = Math.max(columns[column], Math.min(255, note.velocity * 2 - (column - from)));
  }
  return columns;
}
