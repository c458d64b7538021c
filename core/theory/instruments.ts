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
}

const row = (id: string, label: string, family: Family, words: RegExp, looseWords: RegExp | null = null): Instrument => ({
  id,
  label,
  family,
  words,
  looseWords,
});

/**
 * Instruments with the words by which vendors name them (common practice). The first row whose words match wins, so the
 * particular stands before the general.
 */
export const instruments: readonly Instrument[] = [
  row('full-mix', 'Full mix', 'mix', /\b(full ?mix|mixdown|full track|demo mix|full song)\b/),
  row('riser', 'Riser', 'fx', /\b(riser|uplifter|rise|swell up|build ?up)\b/),
  row('downlifter', 'Downlifter', 'fx', /\b(downlifter|down ?sweep|fall)\b/),
  row('impact', 'Impact', 'fx', /\b(impact|boom|slam|braam|hit ?fx|fx ?hit|zap|blip fx)\b/),
  row('texture', 'Texture', 'fx', /\b(texture|noise|vinyl|ambience|atmos|atmosphere|drone|foley)\b/),
  row('kick', 'Kick', 'drums', /\b(kick|kik|bass ?drum|bd)\b/),
  row('snare', 'Snare', 'drums', /\b(snare|snr|rim ?shot|rim|brush(es)?)\b/),
  row('clap', 'Clap', 'drums', /\b(claps?|snaps?)\b/),
  row('hats', 'Hats', 'drums', /\b(hi ?hats?|hats?|hh)\b/),
  row('cymbals', 'Cymbals', 'drums', /\b(rides?|cymbals?|crash(es)?|splash|gong)\b/),
  row('toms', 'Toms', 'drums', /\b(toms?)\b/),
  row('tops', 'Drum tops', 'drums', /\b(tops?|top ?loop)\b/),
  row('shaker', 'Shaker', 'percussion', /\b(shaker|shakers|shk|maracas?|cabasa|egg)\b/),
  row('tambourine', 'Tambourine', 'percussion', /\b(tambourine|tamb)\b/),
  row('conga', 'Conga', 'percussion', /\b(congas?|bongos?|djembe|cajon|tabla|hand ?drum|darbuka|timbales?)\b/),
  row('woodblock', 'Wood and bell', 'percussion', /\b(wood ?block|claves?|cowbell|agogo|triangle|guiro)\b/),
  row('percussion', 'Percussion', 'percussion', /\b(latin ?perc)\b/, /\b(perc|percussion|percs)\b/),
  row('sub-bass', 'Sub bass', 'bass', /\b(sub ?bass|sub)\b/),
  row('upright-bass', 'Upright bass', 'bass', /\b(upright|double bass|acoustic bass|walking)\b/),
  row('synth-bass', 'Synth bass', 'bass', /\b((synth|syn|acid|reese) ?bass|bass ?synth)\b/),
  row(
    'electric-bass',
    'Electric bass',
    'bass',
    /\b((electric|elec|e|fingered|picked|slap) ?bass|bass ?(fingered|picked|slap))\b/,
    /\b(bass|bs|bassline)\b/,
  ),
  row('electric-piano', 'Electric piano', 'keys', /\b(electric piano|elec piano|e ?piano|ep|tine|reed piano|suitcase)\b/),
  row('organ', 'Organ', 'keys', /\b(organ|drawbar)\b/),
  row('clavinet', 'Clavinet', 'keys', /\b(clav|clavinet)\b/),
  row('harpsichord', 'Harpsichord', 'keys', /\b(harpsichord|cembalo)\b/),
  row('accordion', 'Accordion', 'keys', /\b(accordion|concertina|harmonium)\b/),
  row('piano', 'Piano', 'keys', /\b(piano|grand)\b/, /\b(keys|chords?)\b/),
  row('banjo', 'Banjo and kin', 'guitar', /\b(banjo|ukulele|mandolin|lute|dulcimer|zither)\b/),
  row('harp', 'Harp', 'strings', /\b(harp)\b/),
  row('pizzicato', 'Pizzicato', 'strings', /\b(pizz|pizzicato)\b/),
  row('electric-guitar', 'Electric guitar', 'guitar', /\b((electric|elec|clean|dist) ?(guitar|gtr))\b/),
  row('acoustic-guitar', 'Acoustic guitar', 'guitar', /\b((acoustic|nylon|steel) ?(guitar|gtr)|nylon)\b/, /\b(guitar|gtr|strum)\b/),
  row('cello', 'Cello', 'strings', /\b(cello|cellos)\b/),
  row('violin', 'Violin', 'strings', /\b(violin|viola|fiddle)\b/),
  row('strings', 'String section', 'strings', /\b(strings?|legato)\b/),
  row('trumpet', 'Trumpet', 'brass', /\b(trumpet|flugelhorn|cornet)\b/),
  row('trombone', 'Trombone and tuba', 'brass', /\b(trombone|tuba)\b/),
  row('brass', 'Brass section', 'brass', /\b(brass|horns?|brs)\b/),
  row('sax', 'Saxophone', 'wind', /\b(sax|saxophone)\b/),
  row('flute', 'Flute', 'wind', /\b(flute|recorder|whistle|ocarina)\b/),
  row('clarinet', 'Clarinet and oboe', 'wind', /\b(clarinet|oboe|bassoon)\b/),
  row('kalimba', 'Kalimba', 'mallet', /\b(kalimba|thumb piano|mbira)\b/),
  row('marimba', 'Marimba', 'mallet', /\b(marimba|xylo|xylophone|balafon)\b/),
  row('bells', 'Bells', 'mallet', /\b(bells?|glock|glockenspiel|celesta|music ?box|vibes|vibraphone|steel ?pan)\b/),
  row('choir', 'Choir', 'voice', /\b(choir|oohs?|aahs?)\b/),
  row('voice', 'Voice', 'voice', /\b(vocals?|vox|voice|sung|chant|hum|humming)\b/),
  row('synth-pluck', 'Synth pluck', 'synth-lead', /\b(pluck|plk|plucked)\b/, /\b(arp|arpeggio)\b/),
  row('synth-lead', 'Synth lead', 'synth-lead', /\b(lead|synlead)\b/, /\b(riff|melody)\b/),
  row('synth-pad', 'Synth pad', 'synth-pad', /\b(pad|pads|synth pad|wash)\b/),
  row('kit', 'Drum kit', 'drums', /\b(drum ?loop|kit|beat|break|breakbeat|fill)\b/, /\b(drums?|drm)\b/),
];

const byId = new Map(instruments.map((each) => [each.id, each]));

/** The instrument of that id; null for none. @example instrumentById('upright-bass')?.family // => 'bass' */
export const instrumentById = (id: string | null): Instrument | null => (id === null ? null : (byId.get(id) ?? null));
