import { instrumentById } from '../theory/instruments';
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

/**
 * By what notes of a piece are played: the best there is here for each instrument. The demo’s makers play by `voiceByInstrument`, which stays as it is,
 * so that their material stays what it was.
 */
export const noteVoices: Readonly<Record<string, Voice>> = {
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
};

/** Whether an instrument has a voice of its own here. */
export const hasOwnVoice = (instrument: string): boolean => Object.hasOwn(noteVoices, instrument);

/** The voice that plays an instrument: its own, that of what it sounds like, or the electric piano. */
export const noteVoice = (instrument: string | null): Voice => {
  const known = instrument === null ? null : (noteVoices[instrument] ?? noteVoices[instrumentById(instrument)?.soundsAs ?? '']);
  return known ?? voiceByInstrument['electric-piano'];
};
