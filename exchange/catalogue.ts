import { createRandom, seedFromText } from '../core/synth/random';
import { keyName } from '../core/theory/key';
import { shortKey, startPack, two } from '../demo/packs/builder';
import type { AudioFormat, FileSpec, Player } from '../demo/catalogue';

/** What the exchange's own people say of a loop; null where they say nothing. It is not always right. */
export interface Stated {
  readonly tempoBpm: number | null;
  readonly bars: number | null;
  readonly key: string | null;
}

export interface OfferedLoop {
  readonly id: string;
  readonly title: string;
  readonly author: string;
  readonly category: Category;
  readonly words: readonly string[];
  readonly packId: string;
  readonly fileName: string;
  readonly stated: Stated;
  readonly licence: string;
  /** How it is made, and what is true of it; the service tells neither. */
  readonly spec: FileSpec;
}

export interface OfferedPack {
  readonly id: string;
  readonly title: string;
  readonly author: string;
  readonly licence: string;
  readonly about: string;
  readonly loops: readonly OfferedLoop[];
}

export const categories = ['drums', 'percussion', 'bass', 'keys', 'guitar', 'strings', 'brass and wind', 'synth', 'effects'] as const;
export type Category = (typeof categories)[number];

/** What a member plays: category, player of the generator, instrument, word in the name. */
type Row = readonly [category: Category, player: Player, instrument: string, word: string, words: string];
const rows: readonly Row[] = [
  ['drums', 'drums', 'kit', 'Drums', 'beat groove kit'],
  ['drums', 'tops', 'tops', 'Tops', 'hats groove without kick'],
  ['drums', 'kick', 'kick', 'Kick', 'four floor'],
  ['percussion', 'shaker', 'shaker', 'Shaker', 'hand perc'],
  ['percussion', 'conga', 'conga', 'Congas', 'hand drum perc'],
  ['percussion', 'woodblock', 'woodblock', 'Blocks', 'wood perc'],
  ['bass', 'bass', 'electric-bass', 'Bass', 'fingered line'],
  ['bass', 'walk', 'upright-bass', 'Walking Bass', 'upright'],
  ['bass', 'longbass', 'sub-bass', 'Sub', 'low long'],
  ['bass', 'bass', 'synth-bass', 'Synth Bass', 'analogue line'],
  ['keys', 'comp', 'electric-piano', 'Tines', 'electric piano chords'],
  ['keys', 'comp', 'organ', 'Organ', 'drawbar chords'],
  ['keys', 'stabs', 'piano', 'Piano Stabs', 'chords short'],
  ['guitar', 'strum', 'acoustic-guitar', 'Nylon', 'strum guitar'],
  ['guitar', 'arp8', 'electric-guitar', 'Clean Picking', 'guitar arpeggio'],
  ['strings', 'pad', 'strings', 'Strings', 'section long'],
  ['strings', 'melody', 'cello', 'Cello', 'line solo'],
  ['brass and wind', 'stabs', 'brass', 'Brass', 'section hits'],
  ['brass and wind', 'melody', 'flute', 'Flute', 'line solo'],
  ['synth', 'pad', 'synth-pad', 'Pad', 'warm wide'],
  ['synth', 'arp16', 'synth-pluck', 'Pluck', 'arpeggio'],
  ['synth', 'melody', 'synth-lead', 'Lead', 'line'],
  ['effects', 'texture', 'texture', 'Texture', 'noise air'],
];

const licences = [
  'Free to use with the author’s name',
  'Royalty-free once taken, also in sold music',
  'Free for what is not sold; ask the author for the rest',
] as const;

const members = [
  ['Oda Veldkamp', 'Tidewrack', 84, 'A minor'],
  ['Jory Penhallow', 'Winter Pontoon', 92, 'E minor'],
  ['Sunniva Aas', 'Peat Smoke', 98, 'D dorian'],
  ['Tobiah Quill', 'Copper Ladder', 104, 'G major'],
  ['Maren Osterby', 'Half-Past Lantern', 110, 'C minor'],
  ['Ilse Thornquist', 'Salt Road', 116, 'F minor'],
  ['Brannoc Hale', 'Glasshouse', 120, 'B minor'],
  ['Yara Dellinger', 'Moss and Wire', 124, 'D dorian'],
  ['Piet Lindhout', 'Night Barges', 128, 'F# minor'],
  ['Anwen Carrow', 'Slow Weather', 76, 'Bb major'],
  ['Casimir Rook', 'Tall Grass', 134, 'G minor'],
  ['Hedda Sorrel', 'Kiln', 140, 'C# minor'],
  ['Lorcan Abbas', 'Undertow', 88, 'E major'],
  ['Noor Vantongeren', 'Paper Boats', 112, 'A major'],
  ['Signe Holloway', 'Cold Harbour', 170, 'D minor'],
  ['Emre Castellane', 'Fig Tree', 96, 'F major'],
  ['Wilhelmina Tarn', 'Brickyard', 126, 'A minor'],
  ['Dov Larkspur', 'Long Shadow', 72, 'C major'],
] as const;

const formats: readonly AudioFormat[] = ['wav16', 'wav24', 'flac', 'aiff16'];
const packId = (title: string): string => title.toLowerCase().replace(/[^a-z0-9]+/g, '-');

/** What is stated of a loop: the truth, half of the time nothing of the key, now and then something wrong, by the file's own dice. */
function statedOf({ truth, path }: FileSpec, random: () => number): Stated {
  const wrong = random() < 0.06,
    silentTempo = random() < 0.12,
    silentKey = random() < 0.25,
    tempo = truth.tempoBpm ?? 120;
  return {
    tempoBpm: silentTempo ? null : wrong ? (seedFromText(path) % 2 ? tempo / 2 : tempo + 4) : tempo,
    bars: silentTempo ? null : truth.bars,
    key: truth.key === null || silentKey ? null : wrong ? keyName({ ...truth.key, tonic: (truth.key.tonic + 5) % 12 }) : keyName(truth.key),
  };
}

function packOf([author, title, tempo, key]: (typeof members)[number], member: number): OfferedPack {
  const id = packId(title),
    pack = startPack({ slug: `exchange/${id}`, name: title, vendor: author, licence: licences[member % licences.length], description: '' }),
    made: { readonly row: Row; readonly path: string }[] = [];
  rows.forEach((row, k) => {
    const [, player, instrument, word] = row,
      unpitched = ['drums', 'tops', 'kick', 'shaker', 'conga', 'woodblock', 'texture'].includes(player),
      // Half of the files say tempo and key, as members' files do.
      words = (k + member) % 2 === 0 ? `${word} ${tempo}${unpitched ? '' : ` ${shortKey(key)}`}` : `${word} ${two((k % 5) + 1)}`,
      path = pack.loop(`exchange/${id}/${two(k + 1)} ${words}`, formats[(k + member) % formats.length], player, instrument, {
        tempo,
        key: unpitched ? undefined : key,
        bars: [2, 4, 4, 8][(k * 3 + member) % 4],
        progression: member + (k % 3),
        pattern: (k * 5 + member * 3) % 11,
        swing: member % 3 === 0 && unpitched ? 0.12 : 0,
        tone: ((k * 7 + member * 5) % 10) / 10,
        wet: 0.05 + 0.02 * (member % 6),
        drive: 0.05 + 0.04 * (member % 4),
        mono: instrument === 'sub-bass',
      });
    made.push({ row, path });
  });
  const specs = new Map(pack.finish().files.map((spec) => [spec.path, spec]));
  return {
    id,
    title,
    author,
    licence: licences[member % licences.length],
    about: `${rows.length} loops by ${author}, made to go together.`,
    loops: made.map(({ row: [category, , , word, words], path }, k) => {
      const spec = specs.get(path) as FileSpec,
        random = createRandom(seedFromText(path));
      return {
        id: `${id}-${two(k + 1)}`,
        title: `${title} ${word.toLowerCase()}`,
        author,
        category,
        words: [...word.toLowerCase().split(' '), ...words.split(' '), title.toLowerCase()],
        packId: id,
        fileName: path.split('/').at(-1) ?? path,
        stated: statedOf(spec, random),
        licence: licences[member % licences.length],
        spec,
      };
    }),
  };
}

/** Everything on offer, the same at every start. */
export const offeredPacks: readonly OfferedPack[] = members.map(packOf);
export const offeredLoops: readonly OfferedLoop[] = offeredPacks.flatMap(({ loops }) => loops);

/** Loops that have all the words, of a category if one is wanted, in the order of the packs. */
export function searchOffered(loops: readonly OfferedLoop[], words: string, category: string | null): readonly OfferedLoop[] {
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean);
  return loops.filter(
    (loop) =>
      (category === null || loop.category === category) &&
      wanted.every((word) => [...loop.words, loop.author.toLowerCase(), loop.category].some((each) => each.includes(word))),
  );
}
