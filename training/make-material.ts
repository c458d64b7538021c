import { existsSync, mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { instrumentById } from '../core/theory/instruments';
import { noteToHz } from '../core/units/pitch';
import { addPanned, voiceByInstrument } from '../core/synth/play';
import { kit } from '../core/synth/kit';
import type { Note } from '../core/formats/smf/parse';
import { writeWav } from '../core/formats/wav/write';
import { Chance } from './material/chance';
import { composeOver, composePiece, composeTonal, composeUntuned } from './material/compose';
import { finish, type Stereo } from './material/finish';
import { fonts, kitFontKeys, kitFonts, programs, renderWithFont, type FontJob } from './material/fonts';
import { withoutKey } from './material/keyless';
import { nameFor } from './material/names';
import { withOddMeter } from './material/odd-meter';
import { pieceSeconds, quarterBpm, type Part, type Piece } from './material/piece';
import { loadRecorded, recordedHits, recordedNotes } from './material/recorded';
import { randomEffect, scratch } from './material/effects';
import { blipKeys, randomHit } from './material/hits';
import { randomTones } from './material/tones';
import { keptOutKinds, makeWideHarmony, wideKinds } from './material/wide-harmony';
import { truthOf, type Truth } from './truth';

/*
 * make-material.ts --out FOLDER --count N --seed S [--fonts fluid,musescore] [--sources font] [--hits 2] [--recorded FOLDER] [--broad yes] [--keyless yes] [--odd yes|rarer] [--harmony wide|kept-out] [--only tonal|untuned]: loops and one-shots with exact truth,
 * for training and measuring. Sources are named in the truth (`cond`), so that whole ones can be kept out.
 */
const options = new Map<string, string>();
for (let k = 2; k < process.argv.length; k += 2) options.set(process.argv[k].replace(/^--/, ''), process.argv[k + 1]);
const out = options.get('out') ?? '.data/training/material',
  count = Number(options.get('count') ?? 200),
  seed = Number(options.get('seed') ?? 1),
  fontNames = (options.get('fonts') ?? 'fluid,musescore').split(','),
  hitShare = Number(options.get('hits') ?? 1),
  fontsOnly = options.get('sources') === 'font',
  broad = options.has('broad'),
  keyless = options.has('keyless'),
  odd = options.has('odd'),
  only = options.get('only'),
  harmony = options.get('harmony'),
  harmonyKinds = harmony === 'kept-out' ? keptOutKinds : wideKinds,
  notesFolder = options.get('recorded') ?? '.data/training/notes';
const rateHz = 44100,
  batchSize = 120,
  tailSeconds = 2.6;

for (const name of fontNames)
  if (!existsSync(fonts[name] ?? '')) throw new Error(`The sound font ${name} is not here: install Debian’s (docs/training.md).`);

type SourceKind = 'font' | 'voice' | 'synth' | 'recorded';

interface Work {
  readonly index: number;
  readonly piece: Piece;
  readonly chance: Chance;
  readonly seconds: number;
  readonly quarterSeconds: number;
  readonly cents: number;
  readonly sound: Stereo;
  readonly sources: Set<string>;
  readonly fontParts: Part[];
  /** Font parts are played so much lower or higher and resampled back: another body of the same instrument. */
  readonly bodySemitones: number;
}

const hits = recordedHits(),
  notes = recordedNotes(notesFolder);
console.error(`${fontNames.join(', ')}; ${hits.length} recorded hits, ${notes.length} recorded notes`);

function chooseSource(part: Part, piece: Piece, chance: Chance): SourceKind {
  const drum = part.notes[0]?.channel === 9;
  if (drum && blipKeys.includes(part.notes[0].pitch)) return 'synth';
  if (fontsOnly && (drum || part.instrument in programs)) return 'font';
  if (drum && !piece.isLoop)
    return chance.weighted([
      ['font', 25],
      ['synth', 40],
      ['voice', 5],
      ['recorded', hits.length ? 30 : 0],
    ] as const);
  if (drum)
    return chance.weighted([
      ['font', 45],
      ['synth', 30],
      ['voice', 8],
      ['recorded', hits.length ? 17 : 0],
    ] as const);
  const kinds: [SourceKind, number][] = [
    ['font', part.instrument in programs ? 60 : 0],
    ['voice', part.instrument in voiceByInstrument ? 12 : 0],
    ['synth', part.instrument in randomTones ? 40 : 0],
    ['recorded', notes.some((each) => each.instrument === part.instrument) ? 25 : 0],
  ];
  return chance.weighted(kinds);
}

/** Plays a note's sound at its place. */
function put(work: Work, sound: Float32Array, note: Note, gain: number, pan: number): void {
  addPanned(work.sound, sound, Math.round(note.startBeat * work.quarterSeconds * rateHz), gain * (note.velocity / 127) ** 1.4, pan, false);
}

async function renderPart(work: Work, part: Part): Promise<void> {
  const { chance } = work;
  if (work.piece.style.startsWith('fx:')) {
    work.sources.add('synth');
    const { lengthBeats: seconds } = part.notes[0],
      made =
        broad && work.piece.style === 'fx:texture' && chance.yes(0.5)
          ? scratch(seconds, chance, rateHz)
          : randomEffect(work.piece.style, seconds, chance, rateHz, broad);
    return put(work, made, part.notes[0], 0.8, 0);
  }
  let source = chooseSource(part, work.piece, chance);
  const drum = part.notes[0]?.channel === 9;
  if (source === 'font') {
    work.sources.add('gm');
    work.fontParts.push(part);
    return;
  }
  if (drum) {
    const chosen = new Map<number, Float32Array>();
    for (const note of part.notes) {
      let sound = chosen.get(note.pitch);
      if (!sound) {
        const fitting = source === 'recorded' ? hits.filter((each) => each.instrument === instrumentOfKey(note.pitch)) : [];
        const found = fitting.length ? await loadRecorded(chance.pick(fitting)) : null,
          // Played slower or faster it is another drum of its kind.
          loaded = found && broad && chance.yes(0.6) ? readFaster(found, chance.ratio(0.7, 1.4)) : found;
        const piece = kit[note.pitch];
        sound =
          loaded ??
          (source === 'voice' && piece
            ? piece.voice({
                hz: piece.hz * chance.between(0.85, 1.2),
                velocity: 1,
                heldSeconds: 0.2,
                rateHz,
                tone: chance.unit(),
                random: () => chance.unit(),
              })
            : randomHit(note.pitch, chance, rateHz, broad));
        if (loaded) work.sources.add('recorded');
        else work.sources.add(source === 'voice' && piece ? 'voice' : 'synth');
        chosen.set(note.pitch, sound);
      }
      put(work, sound, note, (part.instrument === 'kit' && [42, 44, 46, 49, 51, 70, 82].includes(note.pitch) ? 0.5 : 0.8) * part.gain, 0);
    }
    return;
  }
  const shift = 2 ** (work.cents / 1200),
    tone = chance.unit();
  if (source === 'recorded') {
    const pool = notes.filter((each) => each.instrument === part.instrument),
      folder = chance.pick(pool).file.split('/').slice(0, -1).join('/'),
      samples = pool.filter((each) => each.file.startsWith(folder));
    let played = false;
    for (const note of part.notes) {
      const nearest = samples.reduce((best, each) =>
        Math.abs((each.note ?? 0) - note.pitch) < Math.abs((best.note ?? 0) - note.pitch) ? each : best,
      );
      const sample = await loadRecorded(nearest);
      if (!sample) continue;
      played = true;
      put(
        work,
        stretchNote(sample, 2 ** ((note.pitch - (nearest.note ?? 0)) / 12) * shift, note.lengthBeats * work.quarterSeconds),
        note,
        0.7 * part.gain,
        0,
      );
    }
    if (played) {
      work.sources.add('recorded');
      return;
    }
    source = 'voice';
  }
  const voice = source === 'synth' ? randomTones[part.instrument](chance) : voiceByInstrument[part.instrument];
  work.sources.add(source);
  for (const note of part.notes)
    put(
      work,
      voice({
        hz: noteToHz(note.pitch) * shift,
        velocity: note.velocity / 127,
        heldSeconds: note.lengthBeats * work.quarterSeconds,
        rateHz,
        tone,
        random: () => chance.unit(),
      }),
      { ...note, velocity: 127 },
      0.6 * part.gain,
      (note.pitch - 60) / 120,
    );
}

/** The sound read `ratio` times as fast. */
function readFaster(plane: Float32Array, ratio: number): Float32Array {
  const out = new Float32Array(Math.floor((plane.length - 2) / ratio));
  for (let i = 0; i < out.length; i++) {
    const at = i * ratio,
      k = Math.floor(at);
    out[i] = plane[k] + (plane[k + 1] - plane[k]) * (at - k);
  }
  return out;
}

/** A recorded note at another pitch, let go after its time. */
function stretchNote(sample: Float32Array, ratio: number, heldSeconds: number): Float32Array {
  const length = Math.min(Math.floor((sample.length - 2) / ratio), Math.round((heldSeconds + 0.4) * rateHz)),
    out = new Float32Array(Math.max(1, length)),
    release = 0.08 * rateHz,
    held = heldSeconds * rateHz;
  for (let i = 0; i < length; i++) {
    const at = i * ratio,
      k = Math.floor(at);
    out[i] = (sample[k] + (sample[k + 1] - sample[k]) * (at - k)) * (i > held ? Math.exp(-(i - held) / release) : 1);
  }
  return out;
}

const keyInstruments: readonly (readonly [string, readonly number[]])[] = [
  ['kick', [35, 36]],
  ['snare', [37, 38, 40]],
  ['clap', [39]],
  ['hats', [42, 44, 46, 49, 51, 53, 57, 59]],
  ['toms', [41, 43, 45, 47, 48, 50]],
  ['conga', [60, 61, 62, 63, 64, 65, 66]],
  ['woodblock', [56, 67, 68, 75, 76, 77, 80, 81]],
  ['shaker', [69, 70, 82]],
];
const instrumentOfKey = (key: number): string => keyInstruments.find(([, keys]) => keys.includes(key))?.[0] ?? '';

/** Fonts in turns; a font that is a kit and nothing else plays only what it holds. */
function fontOf({ index, fontParts }: Work): string {
  const kitOnly = fontParts.every(({ notes }) => notes.every(({ channel, pitch }) => channel === 9 && kitFontKeys.includes(pitch))),
    possible = fontNames.filter((name) => kitOnly || !kitFonts.includes(name));
  return possible[(index * 7 + Math.floor(index / 3)) % possible.length];
}

const truths: Truth[] = [];
mkdirSync(out, { recursive: true });
for (let from = 0; from < count; from += batchSize) {
  const batch: Work[] = [];
  for (let index = from; index < Math.min(count, from + batchSize); index++) {
    const pieceSeed = seed * 1_000_003 + index,
      composed = harmony
        ? composeOver(pieceSeed, (...over) => makeWideHarmony(harmonyKinds, ...over))
        : only === 'tonal'
          ? composeTonal(pieceSeed)
          : only === 'untuned'
            ? composeUntuned(pieceSeed, hitShare, broad)
            : composePiece(pieceSeed, hitShare, broad),
      chance = new Chance(seed * 7919 + index * 31 + 5),
      piece = keyless
        ? withoutKey(composed, new Chance(pieceSeed))
        : odd
          ? withOddMeter(composed, new Chance(pieceSeed), options.get('odd') === 'rarer')
          : composed;
    const quarterSeconds = 60 / quarterBpm(piece);
    const seconds = piece.isLoop
      ? pieceSeconds(piece) + tailSeconds
      : Math.max(...piece.parts[0].notes.map((note) => note.lengthBeats)) * quarterSeconds + 3.5;
    const frames = Math.ceil(seconds * rateHz);
    const cents = piece.key && chance.yes(0.15) ? chance.whole(8, 30) * chance.pick([-1, 1]) : 0;
    const work: Work = {
      index,
      piece,
      chance,
      seconds,
      quarterSeconds,
      cents,
      sound: [new Float32Array(frames), new Float32Array(frames)],
      sources: new Set(),
      fontParts: [],
      bodySemitones: !fontsOnly && chance.yes(0.5) ? chance.pick([-4, -3, -2, -1, 1, 2, 3, 4]) : 0,
    };
    for (const part of piece.parts) await renderPart(work, part);
    batch.push(work);
  }
  for (const font of fontNames) {
    const here = batch.filter((work) => work.fontParts.length && fontOf(work) === font);
    if (!here.length) continue;
    const jobs: FontJob[] = here.map(({ fontParts, quarterSeconds, seconds, cents, chance, bodySemitones }) => {
      const ratio = 2 ** (bodySemitones / 12);
      return {
        parts: fontParts.map((part) => ({
          ...part,
          notes: part.notes.map((note) => (note.channel === 9 ? note : { ...note, pitch: note.pitch - bodySemitones })),
        })),
        quarterSeconds: quarterSeconds * ratio,
        seconds: seconds * ratio,
        cents,
        varied: !fontsOnly,
        chance,
      };
    });
    renderWithFont(font, jobs, out, rateHz).forEach((rendered, k) => {
      const work = here[k],
        ratio = 2 ** (work.bodySemitones / 12),
        planes = work.bodySemitones ? rendered.map((plane) => readFaster(plane, ratio)) : rendered;
      let peak = 1e-6;
      for (const plane of planes) for (const value of plane) peak = Math.max(peak, Math.abs(value));
      const gain = (0.8 / peak) * (work.sources.size > 1 ? 0.6 : 1);
      for (let side = 0; side < 2; side++)
        for (let i = 0; i < work.sound[side].length; i++) work.sound[side][i] += (planes[side][i] ?? 0) * gain;
      work.sources.add(`sf:${font}`);
    });
  }
  for (const work of batch) {
    const done = finish(work.sound, work.piece, work.piece.isLoop ? pieceSeconds(work.piece) : 0, work.chance);
    const file = `t${seed}_${String(work.index).padStart(5, '0')}.wav`;
    writeFileSync(join(out, file), writeWav({ sampleRateHz: rateHz, channels: done.sound }, 'int16'));
    truths.push(
      truthOf(
        file,
        work.piece,
        done,
        work.cents,
        [...work.sources],
        nameFor(work.piece, work.chance),
        instrumentById(work.piece.instrument)?.family ?? 'fx',
      ),
    );
  }
  // After every batch, so that what is there can be used while more is made.
  writeFileSync(join(out, 'truth.json'), JSON.stringify({ seed, files: truths }));
  console.error(`${truths.length} of ${count}`);
}
