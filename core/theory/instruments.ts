import { fold } from '../names/fold';

export type Family =
  | 'drums'
  | 'percussion'
  | 'bass'
  | 'keys'
  | 'guitar'
  | 'strings'
  | 'brass'
  | 'wind'
  | 'mallet'
  | 'voice'
  | 'synth-lead'
  | 'synth-pad'
  | 'fx'
  | 'mix';

/** `letter` marks the family beside its colour, so that colour is never the only sign. */
export const families: Readonly<Record<Family, { label: string; letter: string }>> = {
  drums: { label: 'Drums', letter: 'D' },
  percussion: { label: 'Percussion', letter: 'P' },
  bass: { label: 'Bass', letter: 'B' },
  keys: { label: 'Keys', letter: 'K' },
  guitar: { label: 'Plucked strings', letter: 'G' },
  strings: { label: 'Bowed strings', letter: 'S' },
  brass: { label: 'Brass', letter: 'H' },
  wind: { label: 'Wind', letter: 'W' },
  mallet: { label: 'Mallets', letter: 'M' },
  voice: { label: 'Voice', letter: 'V' },
  'synth-lead': { label: 'Lead', letter: 'L' },
  'synth-pad': { label: 'Pad', letter: 'A' },
  fx: { label: 'Effects', letter: 'X' },
  mix: { label: 'Full mix', letter: 'F' },
};

export interface Instrument {
  readonly id: string;
  readonly label: string;
  readonly family: Family;
  /** Words that mean it and no other. */
  readonly words: RegExp;
  /** Words by which it is called as much as others of its family; null where there are none. */
  readonly looseWords: RegExp | null;
  /** What the ear takes it for: only a name or a person tells it from its kin. Null for what is told by sound. */
  readonly soundsAs: string | null;
}

const row = (id: string, label: string, family: Family, words: RegExp, looseWords: RegExp | null = null): Instrument => ({
  id,
  label,
  family,
  words,
  looseWords,
  soundsAs: null,
});
/** One that only a name tells from others that sound alike. */
const kin = (id: string, label: string, family: Family, soundsAs: string, words: RegExp): Instrument => ({
  id,
  label,
  family,
  words,
  looseWords: null,
  soundsAs,
});

/**
 * Instruments with the words by which vendors name them, in English and, where they differ, in German, French, Spanish, Italian and Portuguese,
 * without accents (common practice, and dictionaries' from memory). The first row whose words match wins, so the particular stands before the
 * general.
 */
export const instruments: readonly Instrument[] = [
  row('full-mix', 'Full mix', 'mix', /\b(full ?mix|mixdown|full track|demo mix|full song)\b/),
  kin('scratch', 'Scratch', 'fx', 'texture', /\b(scratch(es|ing)?|turntable)\b/),
  kin('foley', 'Foley', 'fx', 'texture', /\b(foley|footsteps?|gerausche?|bruitage)\b/),
  kin('ambience', 'Ambience', 'fx', 'texture', /\b(ambien(ce|te)|field ?rec(ording)?|room ?tone|atmos|atmosphere|atmosfera)\b/),
  kin('vinyl-noise', 'Vinyl noise', 'fx', 'texture', /\b(vinyl|crackle|tape ?hiss)\b/),
  row('riser', 'Riser', 'fx', /\b(riser|uplifter|rise|swell up|build ?up)\b/),
  row('downlifter', 'Downlifter', 'fx', /\b(downlifter|down ?sweep|fall)\b/),
  row('impact', 'Impact', 'fx', /\b(impact|boom|slam|braam|hit ?fx|fx ?hit|zap|blip fx)\b/),
  row('texture', 'Texture', 'fx', /\b(texture|noise|drone|textura)\b/),
  row('kick', 'Kick', 'drums', /\b(kick|kik|bass ?drum|bd|bassdrum|grosse caisse|bombo|cassa|bumbo)\b/),
  kin('rimshot', 'Rim shot', 'drums', 'snare', /\b(rim ?shots?|rim|side ?stick|cross ?stick)\b/),
  row('snare', 'Snare', 'drums', /\b(snare|snr|brush(es)?|kleine trommel|caisse claire|rullante|tarola)\b/),
  kin('snaps', 'Snaps', 'drums', 'clap', /\b((finger ?)?snaps?)\b/),
  row('clap', 'Clap', 'drums', /\b(claps?|hand ?claps?|palmas)\b/),
  row('hats', 'Hats', 'drums', /\b(hi ?hats?|hats?|hh|charleston|charles)\b/),
  kin('crash', 'Crash cymbal', 'drums', 'cymbals', /\b(crash(es)?)\b/),
  kin('ride', 'Ride cymbal', 'drums', 'cymbals', /\b(rides?)\b/),
  kin('splash', 'Splash cymbal', 'drums', 'cymbals', /\b(splash(es)?)\b/),
  kin('gong', 'Gong', 'percussion', 'cymbals', /\b(gong|tam ?tam)\b/),
  row('cymbals', 'Cymbals', 'drums', /\b(cymbals?|becken|cymbales?|platillos?|piatti|pratos?)\b/),
  kin('timpani', 'Timpani', 'percussion', 'toms', /\b(timpani|kettle ?drums?|pauken?|timbal(es)? d orchestre|timpano)\b/),
  row('toms', 'Toms', 'drums', /\b(toms?|floor ?tom)\b/),
  row('tops', 'Drum tops', 'drums', /\b(tops?|top ?loop)\b/),
  kin('maracas', 'Maracas', 'percussion', 'shaker', /\b(maracas?|rumbakugeln?)\b/),
  kin('cabasa', 'Cabasa', 'percussion', 'shaker', /\b(cabasa|afuche)\b/),
  row('shaker', 'Shaker', 'percussion', /\b(shakers?|shk|egg|ganza|caxixi)\b/),
  row('tambourine', 'Tambourine', 'percussion', /\b(tambourine|tamb|schellenkranz|tambourin|pandereta|pandeiro|tamburello)\b/),
  kin('bongo', 'Bongos', 'percussion', 'conga', /\b(bongos?)\b/),
  kin('djembe', 'Djembe', 'percussion', 'conga', /\b(dj?embe|yembe)\b/),
  kin('cajon', 'Cajon', 'percussion', 'conga', /\b(cajon)\b/),
  kin('tabla', 'Tabla', 'percussion', 'conga', /\b(tablas?)\b/),
  kin('darbuka', 'Darbuka', 'percussion', 'conga', /\b(darbuka|darabuka|doumbek)\b/),
  kin('timbales', 'Timbales', 'percussion', 'conga', /\b(timbales?)\b/),
  kin('surdo', 'Surdo', 'percussion', 'toms', /\b(surdo)\b/),
  kin('congas', 'Congas', 'percussion', 'conga', /\b(congas?|tumba(dora)?s?)\b/),
  row('conga', 'Hand drum', 'percussion', /\b(hand ?drums?|handtrommel)\b/),
  kin('cowbell', 'Cowbell', 'percussion', 'woodblock', /\b(cow ?bells?|kuhglocken?|cencerro|campanaccio)\b/),
  kin('claves', 'Claves', 'percussion', 'woodblock', /\b(claves?)\b/),
  kin('guiro', 'Guiro', 'percussion', 'woodblock', /\b(guiro|reco ?reco)\b/),
  kin('agogo', 'Agogo', 'percussion', 'woodblock', /\b(agogos?)\b/),
  kin('triangle', 'Triangle', 'percussion', 'woodblock', /\b(triangle|triangel|triangulo|triangolo)\b/),
  kin('castanets', 'Castanets', 'percussion', 'woodblock', /\b(castanets?|kastagnetten|castanuelas|castagnettes)\b/),
  kin('wood-block', 'Wood block', 'percussion', 'woodblock', /\b(wood ?blocks?|temple ?blocks?)\b/),
  row('woodblock', 'Wood or bell', 'percussion', /\b(wood perc|metal perc)\b/),
  row(
    'percussion',
    'Percussion',
    'percussion',
    /\b(latin ?perc)\b/,
    /\b(perc|percussion|percs|percusion|percussioni|percussao|perkussion)\b/,
  ),
  row('sub-bass', 'Sub bass', 'bass', /\b(sub ?bass|sub)\b/),
  row(
    'upright-bass',
    'Upright bass',
    'bass',
    /\b(upright|double bass|acoustic bass|walking|kontrabass|contrebasse|contrabajo|contrabbasso)\b/,
  ),
  row('synth-bass', 'Synth bass', 'bass', /\b((synth|syn|acid|reese) ?bass|bass ?synth)\b/),
  row(
    'electric-bass',
    'Electric bass',
    'bass',
    /\b((electric|elec|e|fingered|picked|slap) ?bass|bass ?(fingered|picked|slap))\b/,
    /\b(bass|bs|bassline|basse|bajo|basso|baixo)\b/,
  ),
  row('electric-piano', 'Electric piano', 'keys', /\b(electric piano|elec piano|e ?piano|ep|tine|reed piano|suitcase)\b/),
  row('organ', 'Organ', 'keys', /\b(organ|drawbar|orgel|orgue|organo|orgao)\b/),
  row('clavinet', 'Clavinet', 'keys', /\b(clav|clavinet)\b/),
  row('harpsichord', 'Harpsichord', 'keys', /\b(harpsichord|cembalo|clavecin|clavicordio)\b/),
  kin('harmonica', 'Harmonica', 'wind', 'accordion', /\b(harmonica|blues ?harp|mundharmonika|armonica|gaita de boca)\b/),
  kin('harmonium', 'Harmonium', 'keys', 'accordion', /\b(harmonium|melodeon)\b/),
  row('accordion', 'Accordion', 'keys', /\b(accordion|concertina|akkordeon|accordeon|acordeon|fisarmonica)\b/),
  row('piano', 'Piano', 'keys', /\b(piano|grand|klavier|pianoforte)\b/, /\b(keys|chords?|tasten|teclado)\b/),
  kin('ukulele', 'Ukulele', 'guitar', 'banjo', /\b(ukulele|uke)\b/),
  kin('mandolin', 'Mandolin', 'guitar', 'banjo', /\b(mandolin[eao]?)\b/),
  kin('sitar', 'Sitar', 'guitar', 'banjo', /\b(sitar)\b/),
  kin('koto', 'Koto', 'guitar', 'banjo', /\b(koto|guzheng|shamisen)\b/),
  kin('lute', 'Lute', 'guitar', 'banjo', /\b(lute|oud|laute|laud)\b/),
  kin('dulcimer', 'Dulcimer', 'guitar', 'banjo', /\b(dulcimer|zither|cimbalom|hackbrett|santoor)\b/),
  kin('banjos', 'Banjo', 'guitar', 'banjo', /\b(banjo)\b/),
  row('banjo', 'Banjo and kin', 'guitar', /\b(plucked lute)\b/),
  kin('jaw-harp', 'Jaw harp', 'percussion', 'banjo', /\b(jaw ?harp|maultrommel|guimbarde)\b/),
  row('harp', 'Harp', 'strings', /\b(harp|harfe|harpe|arpa)\b/),
  row('pizzicato', 'Pizzicato', 'strings', /\b(pizz|pizzicato)\b/),
  kin('pedal-steel', 'Pedal steel', 'guitar', 'electric-guitar', /\b((pedal|lap) ?steel)\b/),
  kin('slide-guitar', 'Slide guitar', 'guitar', 'acoustic-guitar', /\b((slide|bottleneck|resonator) ?(guitar|gtr)?)\b/),
  row('electric-guitar', 'Electric guitar', 'guitar', /\b((electric|elec|clean|dist) ?(guitar|gtr)|e gitarre)\b/),
  row(
    'acoustic-guitar',
    'Acoustic guitar',
    'guitar',
    /\b((acoustic|nylon|steel) ?(guitar|gtr)|nylon|violao)\b/,
    /\b(guitar|gtr|strum|gitarre|guitare|guitarra|chitarra)\b/,
  ),
  row('cello', 'Cello', 'strings', /\b(cellos?|violoncell[eo]|violoncelle)\b/),
  kin('viola', 'Viola', 'strings', 'violin', /\b(viola|bratsche)\b/),
  row('violin', 'Violin', 'strings', /\b(violin|fiddle|geige|violine|violon|violino)\b/),
  row('strings', 'String section', 'strings', /\b(strings?|legato|streicher|cordes|cuerdas|archi|cordas)\b/),
  kin('flugelhorn', 'Flugelhorn', 'brass', 'trumpet', /\b(flugelhorn|fluegelhorn|cornet|kornett|fiscorno)\b/),
  row('trumpet', 'Trumpet', 'brass', /\b(trumpet|trompete|trompette|trompeta|tromba)\b/),
  kin('tuba', 'Tuba', 'brass', 'trombone', /\b(tuba|sousaphone)\b/),
  kin('trombones', 'Trombone', 'brass', 'trombone', /\b(trombone|posaune|trombon)\b/),
  row('trombone', 'Trombone or tuba', 'brass', /\b(low brass)\b/),
  kin('french-horn', 'French horn', 'brass', 'brass', /\b(french ?horn|waldhorn|cor d harmonie|trompa)\b/),
  row('brass', 'Brass section', 'brass', /\b(brass|horns?|brs|blaser|cuivres|metales|ottoni|metais)\b/),
  row('sax', 'Saxophone', 'wind', /\b(sax|saxophone|saxophon|saxofon|sassofono)\b/),
  kin('recorder', 'Recorder', 'wind', 'flute', /\b(recorder|blockflote|flute a bec)\b/),
  kin('whistle', 'Whistle', 'wind', 'flute', /\b(whistles?|tin ?whistle|whistling)\b/),
  kin('pan-flute', 'Pan flute', 'wind', 'flute', /\b(pan ?(flute|pipes?)|panflote|zampona)\b/),
  kin('ocarina', 'Ocarina', 'wind', 'flute', /\b(ocarina|okarina)\b/),
  kin('shakuhachi', 'Shakuhachi', 'wind', 'flute', /\b(shakuhachi|bansuri)\b/),
  row('flute', 'Flute', 'wind', /\b(flutes?|flote|querflote|flauta|flauto)\b/),
  kin('oboe', 'Oboe', 'wind', 'clarinet', /\b(oboe|hautbois|english ?horn|cor anglais)\b/),
  kin('bassoon', 'Bassoon', 'wind', 'clarinet', /\b(bassoon|fagott|basson|fagot|fagotto)\b/),
  kin('bagpipe', 'Bagpipe', 'wind', 'clarinet', /\b(bag ?pipes?|dudelsack|cornemuse)\b/),
  kin('clarinets', 'Clarinet', 'wind', 'clarinet', /\b(clarinets?|klarinette|clarinette|clarinete|clarinetto)\b/),
  row('clarinet', 'Clarinet or oboe', 'wind', /\b(woodwinds?|reeds?)\b/),
  row('kalimba', 'Kalimba', 'mallet', /\b(kalimba|thumb piano|mbira)\b/),
  kin('xylophone', 'Xylophone', 'mallet', 'marimba', /\b(xylo|xylophone|xylophon|xilofono)\b/),
  kin('balafon', 'Balafon', 'mallet', 'marimba', /\b(balafon)\b/),
  row('marimba', 'Marimba', 'mallet', /\b(marimba)\b/),
  kin('glockenspiel', 'Glockenspiel', 'mallet', 'bells', /\b(glock|glockenspiel|carillon)\b/),
  kin('vibraphone', 'Vibraphone', 'mallet', 'bells', /\b(vibes|vibraphone|vibraphon|vibrafono)\b/),
  kin('celesta', 'Celesta', 'mallet', 'bells', /\b(celesta|celeste)\b/),
  kin('music-box', 'Music box', 'mallet', 'bells', /\b(music ?box|spieluhr|spieldose|boite a musique|caja de musica)\b/),
  kin('steel-pan', 'Steel pan', 'mallet', 'bells', /\b(steel ?(pans?|drums?)|hang ?drum|handpan)\b/),
  kin('tubular-bells', 'Tubular bells', 'mallet', 'bells', /\b(tubular ?bells?|chimes?|rohrenglocken)\b/),
  row('bells', 'Bells', 'mallet', /\b(bells?|glocken?|cloches?|campanas?|campane)\b/),
  kin('vocoder', 'Vocoder', 'voice', 'voice', /\b(vocoder|talk ?box|robot voice)\b/),
  row('choir', 'Choir', 'voice', /\b(choir|oohs?|aahs?|chor|choeur|coro)\b/),
  row('voice', 'Voice', 'voice', /\b(vocals?|vox|voice|sung|chant|hum|humming|gesang|stimme|voix|voz|voce|acapella|spoken)\b/),
  row('synth-pluck', 'Synth pluck', 'synth-lead', /\b(pluck|plk|plucked)\b/, /\b(arp|arpeggio)\b/),
  row('synth-lead', 'Synth lead', 'synth-lead', /\b(lead|synlead)\b/, /\b(riff|melody)\b/),
  row('synth-pad', 'Synth pad', 'synth-pad', /\b(pad|pads|synth pad|wash)\b/),
  row(
    'kit',
    'Drum kit',
    'drums',
    /\b(drum ?loop|kit|beat|break|breakbeat|fill)\b/,
    /\b(drums?|drm|schlagzeug|batterie|bateria|batteria)\b/,
  ),
];

/** Those that are told by sound: what the networks were taught. */
export const instrumentsHeard: readonly Instrument[] = instruments.filter(({ soundsAs }) => soundsAs === null);

const byId = new Map(instruments.map((each) => [each.id, each]));

/** An instrument that a group has added for itself. */
export interface OwnInstrument {
  /** Begins with `own-`. */
  readonly id: string;
  readonly label: string;
  /** What the ear takes it for; of that family it is, and by that it is played. */
  readonly soundsAs: string;
  /** Words by which files of it are named, as people write them. */
  readonly words: readonly string[];
  /** Taken out of the choices: known still for the loops that are it. */
  readonly archived?: boolean;
}

const own = new Map<string, Instrument>();
let told: readonly OwnInstrument[] = [];

/** Whether an id is one of a group's own. */
export const isOwnInstrument = (id: string): boolean => id.startsWith('own-');

/**
 * Lets a group's own instruments be known beside the common ones, in the place of those told before. The one thing here that is told at run time:
 * by each process, thread and page when it begins and when the group changes them.
 */
export function setOwnInstruments(list: readonly OwnInstrument[]): void {
  told = list;
  own.clear();
  for (const { id, label, soundsAs, words } of list) {
    const heard = byId.get(soundsAs);
    if (!heard) continue;
    const all = [label, ...words]
      .map((word) =>
        fold(word)
          .replace(/[^\p{L}\p{N}]+/gu, ' ')
          .trim(),
      )
      .filter(Boolean);
    own.set(id, {
      id,
      label,
      family: heard.family,
      words: new RegExp(`\\b(${all.map((word) => word.replaceAll(' ', ' ?')).join('|')})s?\\b`, 'u'),
      looseWords: null,
      soundsAs: heard.soundsAs ?? heard.id,
    });
  }
}

/** What was told last. */
export const ownInstruments = (): readonly OwnInstrument[] => told;

/** The common ones and the group's own, the particular first; without those that were taken out of the choices. */
export const allInstruments = (): readonly Instrument[] => [
  ...told.flatMap(({ id, archived = false }) => (archived ? [] : (own.get(id) ?? []))),
  ...instruments,
];

/** By which instrument notes of it are played: a group's own by what it sounds like. */
export const playedAs = (id: string | null): string | null => (id === null ? null : (own.get(id)?.soundsAs ?? id));

/** The instrument of that id; null for none. @example instrumentById('upright-bass')?.family // => 'bass' */
export const instrumentById = (id: string | null): Instrument | null => (id === null ? null : (byId.get(id) ?? own.get(id) ?? null));

/** What the ear takes an instrument for: itself, or that of its kin which is told by sound. @example soundOf('crash') // => 'cymbals' */
export const soundOf = (id: string): string => byId.get(id)?.soundsAs ?? own.get(id)?.soundsAs ?? id;

/** Those after which the sound of their kin is called: a conga among hand drums. */
const heads: Readonly<Record<string, string>> = {
  congas: 'conga',
  'wood-block': 'woodblock',
  banjos: 'banjo',
  trombones: 'trombone',
  clarinets: 'clarinet',
};

/** The plain name of an instrument for who reads lists by machine: what a name tells where it does. @example plainId('congas') // => 'conga' */
export const plainId = (id: string): string => heads[id] ?? id;
