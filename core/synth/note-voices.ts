import { instrumentById } from '../theory/instruments';
import { dbToRatio } from '../units/level';
import { voiceByInstrument } from './play';
import type { Voice } from './voice';
import {
  accordionReeds,
  bassoonReed,
  brassChoir,
  clarinetReed,
  frenchHorn,
  harmonicaReed,
  oboeReed,
  ocarinaPipe,
  panPipe,
  recorderPipe,
  saxReed,
  tromboneHorn,
  trumpetHorn,
  tubaHorn,
} from './voices/blown';
import { downlifter, impact, riser, texture } from './voices/effects';
import { soloCello, soloViola, soloViolin, stringPlayers } from './voices/bowed';
import {
  celestaPlate,
  electricString,
  glockenspielBar,
  harpsichordQuill,
  kotoString,
  mandolinString,
  musicBoxTongue,
  singers,
  sitarString,
  steelPan,
  timpani,
  ukuleleString,
  vibraphoneBar,
  xylophoneBar,
} from './voices/struck';

/** An effect that comes up and goes down over a few thousandths of a second, where it would begin or end within its noise. */
function softly(voice: Voice): Voice {
  return (note) => {
    const sound = voice(note);
    return sound.map((value, i) => value * Math.min(1, i / 400, (sound.length - i) / 400));
  };
}

/**
 * By what notes of a piece are played: the best there is here for each instrument. The demo’s makers play by `voiceByInstrument`, which stays as it is,
 * so that their material stays what it was.
 */
const voices: Readonly<Record<string, Voice>> = {
  ...voiceByInstrument,
  harpsichord: harpsichordQuill,
  accordion: accordionReeds,
  harmonium: accordionReeds,
  harmonica: harmonicaReed,
  'electric-guitar': electricString,
  'pedal-steel': electricString,
  mandolin: mandolinString,
  ukulele: ukuleleString,
  sitar: sitarString,
  koto: kotoString,
  dulcimer: mandolinString,
  violin: soloViolin,
  viola: soloViola,
  cello: soloCello,
  strings: stringPlayers,
  trumpet: trumpetHorn,
  flugelhorn: frenchHorn,
  trombone: tromboneHorn,
  trombones: tromboneHorn,
  tuba: tubaHorn,
  'french-horn': frenchHorn,
  brass: brassChoir,
  sax: saxReed,
  clarinet: clarinetReed,
  clarinets: clarinetReed,
  oboe: oboeReed,
  bassoon: bassoonReed,
  recorder: recorderPipe,
  whistle: recorderPipe,
  'pan-flute': panPipe,
  ocarina: ocarinaPipe,
  shakuhachi: panPipe,
  vibraphone: vibraphoneBar,
  glockenspiel: glockenspielBar,
  xylophone: xylophoneBar,
  celesta: celestaPlate,
  'music-box': musicBoxTongue,
  'steel-pan': steelPan,
  timpani,
  choir: singers,
  riser,
  downlifter: softly(downlifter),
  impact,
  texture: softly(texture),
};

/** By how many dB a voice is raised or lowered beside the others, by the loudest 300 ms of a middle note. */
const levelsDb: Readonly<Record<string, number>> = {
  mandolin: 6,
  dulcimer: 6,
  sitar: 5,
  pizzicato: 5,
  clavinet: 4,
  banjo: 4,
  harp: 3,
  ukulele: 3,
  koto: 3,
  'synth-pluck': 2,
  flute: -2,
  voice: -2,
  'synth-bass': -2,
  'sub-bass': -3,
  timpani: -3,
};

const atLevel =
  (voice: Voice, ratio: number): Voice =>
  (note) =>
    voice(note).map((value) => value * ratio);

/** The voices by instrument, at the levels at which they stand beside each other. */
export const noteVoices: Readonly<Record<string, Voice>> = Object.fromEntries(
  Object.entries(voices).map(([id, voice]) => [id, levelsDb[id] === undefined ? voice : atLevel(voice, dbToRatio(levelsDb[id]))]),
);

/** Whether an instrument has a voice of its own here. */
export const hasOwnVoice = (instrument: string): boolean => Object.hasOwn(noteVoices, instrument);

/** The voice that plays an instrument: its own, that of what it sounds like, or the electric piano. */
export const noteVoice = (instrument: string | null): Voice => {
  const known = instrument === null ? null : (noteVoices[instrument] ?? noteVoices[instrumentById(instrument)?.soundsAs ?? '']);
  return known ?? voiceByInstrument['electric-piano'];
};
