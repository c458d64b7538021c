import { instrumentById } from '../../core/theory/instruments';
import type { Chance } from './chance';
import { quarterBpm, type Piece } from './piece';

export interface VendorName {
  readonly name: string;
  readonly folder: string;
}

const makers = ['Amber Jetty', 'Cold Kiln', 'FERRY NIGHTS', 'Paper Lighthouse', 'Slow Orchard', 'TWO HARBOURS', 'Plum & Iron'];
const moods = [
  'Groove',
  'Night',
  'Main',
  'Soft',
  'Warm',
  'Lift',
  'Drift',
  'Wide',
  'Hook',
  'Stroll',
  'Deep 2',
  '808',
  'Vol 3',
  '70s',
  '4x4',
];
const sharps = ['C', 'C#', 'D', 'D#', 'E', 'F', 'F#', 'G', 'G#', 'A', 'A#', 'B'],
  flats = ['C', 'Db', 'D', 'Eb', 'E', 'F', 'Gb', 'G', 'Ab', 'A', 'Bb', 'B'];
const shapes = [
  '{maker}_{bpm}_{inst}_{mood}_{n}_{key}',
  '{n} {bpm} BPM {mood} {inst} - {key}',
  '{maker}_{inst}_{n}_{bpm}_{key}',
  '{inst}_{n}',
  '{inst} {mood} {n}',
  '{maker} - {mood} - {inst} {n} ({bpm} bpm, {key})',
  'Loop_{n}_{mood}_{inst}_{bpm}',
  '{mood} {n} {inst} {key} {bpm}',
  '{bpm}bpm_{key}_{inst}_{n}',
];
const hitShapes = ['{maker}_{inst}_{n}', '{inst} {n}', '{inst}_{mood}_{n}', '{inst}_{key}', '{n}_{inst}'];

/** Words by which an instrument is called, in vendors' ways; some only name the family, some nothing at all. */
const words: Readonly<Record<string, readonly string[]>> = {
  kit: ['Drums', 'DrumLoop', 'Beat', 'Break'],
  tops: ['Tops', 'TopLoop'],
  hats: ['Hats', 'HiHat', 'Ride', 'Cymbal'],
  percussion: ['Perc', 'Percussion'],
  conga: ['Conga', 'Bongo'],
  woodblock: ['Clave', 'Cowbell', 'Woodblock', 'Agogo'],
  'electric-piano': ['EPiano', 'Electric Piano', 'EP'],
  'electric-bass': ['Bass', 'Bs'],
  'synth-bass': ['Synth Bass', 'SynBass', 'Bass'],
  'sub-bass': ['Sub', 'SubBass'],
  'acoustic-guitar': ['Acoustic Gtr', 'Guitar', 'Nylon'],
  'electric-guitar': ['Elec Gtr', 'Guitar', 'Gtr'],
  strings: ['Strings', 'String Ens'],
  brass: ['Brass', 'Horns', 'Brs'],
  bells: ['Bells', 'Glock', 'Vibes'],
  marimba: ['Marimba', 'Xylo'],
  'synth-lead': ['Lead', 'SynLead'],
  'synth-pluck': ['Pluck', 'Plk'],
  'synth-pad': ['Pad', 'Synth Pad'],
  'full-mix': ['Full Mix', 'Mix'],
  voice: ['Vocal', 'Vox'],
  choir: ['Choir', 'Choir Pad'],
};

/** What a vendor would call it, with the vendors' errors: 1.5 % wrong tempos, 8 % half or double, 5 % wrong keys. */
export function nameFor(piece: Piece, chance: Chance): VendorName {
  const maker = chance.pick(makers),
    hit = !piece.isLoop;
  let bpm = '';
  if (!hit) {
    const base = piece.meter === '6/8' && chance.yes(0.5) ? quarterBpm(piece) : piece.tempoBpm,
      said =
        base *
          chance.weighted([
            [1, 90.5],
            [2, 4],
            [0.5, 4],
          ] as const) +
        (chance.yes(0.015) ? chance.pick([-7, 5, 10]) : 0);
    bpm = Math.abs(said - Math.round(said)) < 1e-6 || chance.yes(0.6) ? String(Math.round(said)) : said.toFixed(2).replace(/\.?0+$/, '');
  }
  let key = '';
  if (piece.key && piece.keyStatus !== 'atonal') {
    const tonic = (piece.key.tonic + (chance.yes(0.05) ? chance.pick([1, 2, 5, 7, 11]) : 0)) % 12,
      letter = chance.pick([sharps, flats])[tonic];
    key =
      piece.keyStatus === 'tonicOnly' || chance.yes(0.1)
        ? letter
        : letter +
          chance.pick(
            piece.key.mode === 'minor' ? ['m', 'min', ' min', 'minor', ' Minor', '_min'] : ['', 'maj', ' maj', '', 'major', ' Major'],
          );
  }
  const label = instrumentById(piece.instrument)?.label ?? piece.instrument,
    fill: Readonly<Record<string, string>> = {
      maker: chance.yes(0.5)
        ? maker
            .split(' ')
            .map((word) => word[0])
            .join('')
        : maker.replaceAll(' ', chance.pick(['', '_'])),
      bpm,
      key,
      inst: chance.pick(words[piece.instrument] ?? [label]),
      mood: chance.pick(moods),
      n: String(chance.yes(0.8) ? chance.whole(1, 40) : chance.whole(60, 180)).padStart(chance.pick([1, 2, 3]), '0'),
    };
  const name = chance
    .pick(hit ? hitShapes : shapes)
    .replaceAll(/\{(\w+)\}/g, (_, field: string) => fill[field] ?? '')
    .replaceAll(/\(\s*bpm,\s*\)|\(,?\s*\)/g, '')
    .replaceAll(/_{2,}/g, '_')
    .replaceAll(/\s{2,}/g, ' ')
    .replaceAll(/^[\s_-]+|[\s_-]+$/g, '');
  const folder = `${maker}/${chance.pick(['Loops', 'Audio', 'WAV', hit ? 'One Shots' : `${label} Loops`])}${bpm && chance.yes(0.1) ? ` ${bpm} BPM` : ''}`;
  return { name, folder };
}
