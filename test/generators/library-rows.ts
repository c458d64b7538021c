import type { Detail } from '~core/analysis/analysis';
import { createRandom } from '~core/synth/random';
import { characters } from '~core/theory/characters';
import { genres } from '~core/theory/genres';
import { families, instruments } from '~core/theory/instruments';
import { keyName, type Key } from '~core/theory/key';
import { fold } from '~core/names/fold';
import { profileOf } from '~core/search/fit/profile';

/** A row of the library that was never heard, but could have been: skewed as libraries are (few large packs, half-time mislabels, sets of 1–8). */
export interface GeneratedLoop {
  readonly id: number;
  readonly packNumber: number;
  readonly setNumber: number | null;
  readonly kind: 'loop' | 'one-shot' | 'phrase' | 'full-mix';
  readonly media: 'audio' | 'midi';
  readonly title: string;
  readonly vendorPath: string;
  readonly tempoBpm: number | null;
  readonly key: Key | null;
  readonly pitched: boolean;
  readonly instrument: string;
  readonly family: string;
  readonly bars: number | null;
  readonly beats: number | null;
  readonly meter: string | null;
  readonly lengthSeconds: number;
  readonly loudnessLufs: number;
  readonly addedAtMs: number;
  readonly genres: readonly string[];
  readonly characters: readonly string[];
  readonly isDoubtful: boolean;
  readonly searchText: string;
  readonly detail: Detail;
  readonly profile: Uint8Array;
  readonly likeness: Uint8Array;
}

export interface GeneratedPack {
  readonly number: number;
  readonly name: string;
  readonly vendor: string;
  readonly licence: string;
}

const placeWords = [
    'Harbour',
    'Lantern',
    'Saltmarsh',
    'Granite',
    'Willow',
    'Copper',
    'Ember',
    'Tide',
    'Orchard',
    'Café',
    'Noon',
    'Ferry',
    'Quarry',
    'Meadow',
    'Дождь',
    '夜',
  ],
  thingWords = ['Grooves', 'Sketches', 'Rooms', 'Sessions', 'Stories', 'Patterns', 'Colours', 'Machines', 'Letters', 'Studies'],
  licences = ['Royalty-free, cleared for broadcast', 'Royalty-free with credit', 'Non-commercial unless licensed', ''],
  toneWords = [
    'tight',
    'wide',
    'warm',
    'slow',
    'late',
    'glass',
    'dust',
    'rain',
    'north',
    'old',
    'small',
    'second',
    'paper',
    'iron',
    'hollow',
    'quiet',
  ];

/** A pack of a number. */
export function generatedPack(number: number): GeneratedPack {
  const random = createRandom(number * 7919 + 1),
    pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)];
  return {
    number,
    name: `${pick(placeWords)} ${pick(thingWords)} ${number}`,
    vendor: `${pick(placeWords)} & ${pick(placeWords)}`,
    licence: pick(licences),
  };
}

/** Rows of a seed, one by one; equal for equal seeds. @param count of all, by which there are more packs */
export function* generateLoops(count: number, seed = 1): Generator<GeneratedLoop> {
  const random = createRandom(seed),
    pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)],
    packs = Math.max(3, Math.round(count / 400)),
    audible = instruments.filter(({ family }) => family !== 'mix');
  let setNumber = 0;
  for (let id = 1; id <= count;) {
    // Few packs hold most of it (Zipf's law, by a power of a uniform number).
    const packNumber = 1 + Math.floor(packs * random() ** 2.2),
      instrument = pick(audible),
      siblings = 1 + Math.floor(8 * random() ** 2),
      centre = pick([72, 85, 90, 96, 100, 110, 120, 124, 128, 140, 174]),
      own = Math.max(
        40,
        Math.min(280, Math.round((centre + (random() - 0.5) * 16) * (random() < 0.05 ? 2 : 1) * (random() < 0.7 ? 1 : 100)) / 1),
      ),
      tempoBpm = own > 280 ? Math.round(centre * 10) / 10 : own,
      pitched = !['drums', 'percussion', 'fx'].includes(instrument.family) && random() < 0.95,
      key: Key | null = pitched && random() < 0.93 ? { tonic: Math.floor(random() * 12), mode: random() < 0.6 ? 'minor' : 'major' } : null,
      kind = random() < 0.75 ? 'loop' : random() < 0.7 ? 'one-shot' : random() < 0.7 ? 'phrase' : 'full-mix',
      repeats = kind === 'loop' || kind === 'full-mix',
      meter = repeats ? (random() < 0.93 ? '4/4' : pick(['3/4', '6/8', '7/8', '5/4'])) : null,
      colour = Array.from({ length: 32 }, () => Math.round((random() - 0.5) * 90)),
      chosenGenres = Array.from({ length: Math.floor(random() * 3) }, () => pick(genres).id),
      tone = pick(toneWords),
      pack = generatedPack(packNumber);
    if (siblings > 1) setNumber++;
    for (let sibling = 0; sibling < siblings && id <= count; sibling++, id++) {
      const bars = repeats ? pick([1, 2, 2, 4, 4, 4, 8, 8, 16]) : null,
        beatsOfBar = meter === '3/4' ? 3 : meter === '6/8' ? 2 : meter === '7/8' ? 7 : meter === '5/4' ? 5 : 4,
        chosenCharacters = Array.from({ length: Math.floor(random() * 3) }, () => pick(characters).id),
        title = `${tone[0].toUpperCase()}${tone.slice(1)} ${instrument.label} ${sibling + 1}`,
        detail = generatedDetail(random, instrument.family, key, bars, beatsOfBar),
        bytes = profileOf(detail);
      if (!bytes) throw new Error('no profile');
      yield {
        id,
        packNumber,
        setNumber: siblings > 1 ? setNumber : null,
        kind,
        media: random() < 0.1 ? 'midi' : 'audio',
        title,
        vendorPath: `${pack.name}/${families[instrument.family].label}/${title} ${id}.wav`,
        tempoBpm: repeats && random() < 0.97 ? tempoBpm : null,
        key,
        pitched,
        instrument: instrument.id,
        family: instrument.family,
        bars,
        beats: bars === null ? null : bars * beatsOfBar,
        meter,
        lengthSeconds: bars === null ? random() * 4 + 0.1 : (bars * beatsOfBar * 60) / tempoBpm,
        loudnessLufs: -8 - random() * 24,
        addedAtMs: Date.UTC(2026, 0, 1) + Math.floor(random() * 300) * 86_400_000 + Math.floor(random() * 86_400) * 1000,
        genres: [...new Set(chosenGenres)],
        characters: [...new Set(chosenCharacters)],
        isDoubtful: random() < 0.15,
        searchText: fold(
          [
            title,
            pack.name,
            pack.vendor,
            instrument.label,
            families[instrument.family].label,
            key ? keyName(key).replace('♯', 'sharp').replace('♭', 'flat') : 'unpitched',
            kind,
          ].join(' '),
        ),
        detail,
        profile: bytes,
        likeness: new Uint8Array(Int8Array.from(colour, (value) => value + Math.round((random() - 0.5) * 12)).buffer),
      };
    }
  }
}

/** Bands, accents and notes as an instrument of that family would have them. */
function generatedDetail(random: () => number, family: string, key: Key | null, bars: number | null, beatsOfBar: number): Detail {
  const centre = family === 'bass' ? 1 : family === 'percussion' || family === 'fx' ? 7 : family === 'drums' ? 4 : 4 + random() * 2,
    raw = Array.from(
      { length: 10 },
      (_, band) => Math.exp(-(((band - centre) / (family === 'drums' ? 4 : 1.6)) ** 2)) * (0.6 + random() * 0.8),
    ),
    total = raw.reduce((sum, value) => sum + value, 0),
    cells = beatsOfBar * 4,
    accents = Array.from({ length: cells }, (_, cell) => (cell % 4 === 0 ? 0.8 : cell % 2 === 0 ? 0.5 : 0.2) * (random() < 0.6 ? 1 : 0.1)),
    scale = key ? (key.mode === 'minor' ? [0, 2, 3, 5, 7, 8, 10] : [0, 2, 4, 5, 7, 9, 11]) : [];
  return {
    readings: [],
    pulse: [],
    groove:
      bars === null
        ? null
        : {
            accents: [accents, accents.map((value) => value * 0.7), accents.map((value) => value * 0.4)],
            swing: random() < 0.5 ? 0.5 + random() * 0.17 : null,
            spreadMs: random() * 20,
          },
    bars: key
      ? Array.from({ length: Math.min(8, bars ?? 1) }, () => {
          const root = scale[Math.floor(random() * 7)],
            notes = [0, 2, 4].map((step) => (key.tonic + scale[(scale.indexOf(root) + step) % 7]) % 12);
          return {
            pitchClasses: Array.from({ length: 12 }, (_, pitch) =>
              notes.includes(pitch) ? 0.6 + random() * 0.4 : random() < 0.1 ? 0.2 : 0,
            ),
            notes: [],
            bass: null,
            chord: null,
          };
        })
      : [],
    families: [],
    levels: null,
    character: [],
    bands: raw.map((value) => value / total),
    tuningAgreement: 1,
    heardSeconds: null,
    density: random() * 5,
    brightnessHz: 60 * 2 ** (centre * 0.75 + random()),
    fallSeconds: random() ** 2 * 1.5,
  };
}
