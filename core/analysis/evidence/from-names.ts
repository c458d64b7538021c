import { readName, withoutPack, type InstrumentWord, type NameReading } from '../../names/parse-name';
import { stemOf } from '../../names/fields';
import type { NamePattern } from '../../names/pattern';
import { readByPattern } from '../../names/read-by-pattern';
import { instrumentById, instrumentsHeard, type Instrument } from '../../theory/instruments';
import { keyName, pitchClassName, type Key } from '../../theory/key';
import { pitchClass } from '../../units/pitch';
import type { EmbeddedTags } from '../../formats/tags/embedded';
import type { LoopKind } from '../attributes/loop-kinds';
import { evidence, type Evidence } from '../facts';
import type { Source } from '../sources';

/**
 * A stated tempo with its half and double, of which one name in twelve says one; other numbers in the name may be the tempo instead (common
 * practice of vendors). That the quarters of a 6/8 may be meant is for `withQuarters` to add, which knows what is heard.
 */
function tempoCandidates(tempoBpm: number, certain: number, others: readonly number[] = []) {
  const own = others.length ? certain * 0.6 : certain;
  return [
    { value: tempoBpm, probability: own },
    { value: tempoBpm / 2, probability: (1 - certain) * 0.35 },
    { value: tempoBpm * 2, probability: (1 - certain) * 0.35 },
    ...others.map((value) => ({ value, probability: (certain - own) / others.length })),
  ];
}

/**
 * A stated key. A letter by itself leaves the mode open, though minor is seldom left unsaid; without a sharp or flat it may also be no key at
 * all, but count variations (common practice of vendors).
 */
function keyCandidates(key: Key, { keyIsMarked, keyIsAltered }: Pick<NameReading, 'keyIsMarked' | 'keyIsAltered'>) {
  if (keyIsMarked) return [{ value: key, probability: 0.95 }];
  const certain = keyIsAltered ? 0.93 : 0.8,
    other: Key = { tonic: key.tonic, mode: key.mode === 'major' ? 'minor' : 'major' };
  return [
    { value: key, probability: certain * 0.68 },
    { value: other, probability: certain * 0.32 },
  ];
}

/** A stated kind. The folder of a pack's loops often holds its single sounds too (common practice of vendors); a file's own name is meant. */
function kindCandidates(kind: LoopKind, source: Source) {
  return source === 'folder' && kind === 'loop'
    ? ([
        { value: 'loop', probability: 0.72 },
        { value: 'one-shot', probability: 0.2 },
      ] as const)
    : [{ value: kind, probability: 0.85 }];
}

/**
 * How far a stated instrument is believed, and how much of that goes to the others of its family: who writes “guitar” may mean any, who writes
 * “nylon guitar” seldom does.
 */
const believed: Readonly<Record<InstrumentWord, { readonly all: number; readonly kin: number }>> = {
  own: { all: 0.95, kin: 0.03 },
  loose: { all: 0.95, kin: 0.5 },
  hint: { all: 0.5, kin: 0.1 },
};
/** The name of a pack is a poem as often as it says what is in it. */
const titleShare = 0.5;

function instrumentCandidates({ id, family }: Instrument, word: InstrumentWord, share: number) {
  const kin = instrumentsHeard.filter((each) => each.family === family && each.id !== id),
    { all, kin: left } = believed[word],
    shared = kin.length ? left : 0;
  return [
    { value: id, probability: share * (all - shared) },
    ...kin.map((each) => ({ value: each.id, probability: (share * shared) / kin.length })),
  ];
}

/** What is played once seldom has a tempo in its name (common practice of vendors), loops and mixes have it alike; a bare number may be something else. */
function kindsWithTempo(isMarked: boolean) {
  const once = isMarked ? 0.1 : 0.17,
    round = (0.94 - once) / 2;
  return [
    { value: 'loop', probability: round },
    { value: 'full-mix', probability: round },
    { value: 'one-shot', probability: once },
    { value: 'phrase', probability: 0.06 },
  ] as const;
}

/** So begins the reason of what a name says as all of its pack are read. */
const byPattern = 'part';

/** Whether an evidence of a name was read as all of its pack are, and not by itself. */
export const isReadByPattern = ({ reason }: Pick<Evidence, 'reason'>): boolean => reason.startsWith(`${byPattern} `);

/**
 * What a file's name says of tempo and key when it is read as all of its pack's are; the same as without patterns where none is of its shape.
 * @param path with `/`
 */
export function tempoAndKeyOfName(path: string, patterns: readonly NamePattern[]): Evidence[] {
  const file = stemOf(path.split('/').at(-1) ?? ''),
    read = readByPattern(file, patterns);
  if (!read)
    return evidenceFromPath(path).filter(
      ({ attribute, source }) => source === 'file-name' && (attribute === 'tempo' || attribute === 'key'),
    );
  const roles = read.fields.map(({ role }) => role),
    others = evidenceFromName(read.words, 'file-name').filter(
      ({ attribute }) => (attribute === 'tempo' && !roles.includes('tempo')) || (attribute === 'key' && !roles.includes('key')),
    ),
    asHere = (k: number) => `${byPattern} ${k + 1} of names here`;
  if (read.tempoBpm !== null)
    others.push(
      evidence(
        'tempo',
        'file-name',
        tempoCandidates(read.tempoBpm, 0.92),
        `${asHere(roles.indexOf('tempo'))} is the tempo: ${read.tempoBpm}`,
      ),
    );
  if (read.key)
    others.push(
      evidence(
        'key',
        'file-name',
        keyCandidates(read.key, { keyIsMarked: read.hasMode, keyIsAltered: true }),
        `${asHere(roles.indexOf('key'))} is the key: ${keyName(read.key)}`,
      ),
    );
  return others;
}

/** Evidence in the vendor's path: the file name, and the folders above it, the nearest first. `path` with `/`. */
export function evidenceFromPath(path: string): Evidence[] {
  const parts = path.split('/').filter(Boolean),
    file = stemOf(parts.pop() ?? ''),
    pack = parts.length > 1 ? parts[0] : null;
  const fromFile = evidenceFromFile(file, pack),
    fromFolder = evidenceFromFolders([...parts].reverse(), pack !== null);
  // A folder called after the family says nothing against the particular instrument in the file's name.
  const familyOf = (list: readonly Evidence[]) => {
    const found = list.find((each) => each.attribute === 'instrument');
    return found ? (instrumentById(String(found.candidates[0].value))?.family ?? null) : null;
  };
  const agree = familyOf(fromFile) !== null && familyOf(fromFile) === familyOf(fromFolder);
  return [...fromFile, ...(agree ? fromFolder.filter((each) => each.attribute !== 'instrument') : fromFolder)];
}

/** What a file's name says beside the pack's own in front of it; an instrument that only the pack's name has counts as that of a title does. */
function evidenceFromFile(file: string, pack: string | null): Evidence[] {
  const own = pack === null ? file : withoutPack(file, pack),
    found = evidenceFromName(own, 'file-name');
  if (own === file || found.some(({ attribute }) => attribute === 'instrument')) return found;
  return [...found, ...evidenceFromName(file, 'file-name', titleShare).filter(({ attribute }) => attribute === 'instrument')];
}

/** Of the folders above a file, the nearest first, the nearest speaks that has a word on it. The last is the pack's own name if `titled`. */
function evidenceFromFolders(folders: readonly string[], titled: boolean): Evidence[] {
  const found: Evidence[] = [];
  folders.forEach((folder, k) => {
    const share = titled && k === folders.length - 1 ? titleShare : 1;
    for (const each of evidenceFromName(folder, 'folder', share))
      if (!found.some(({ attribute }) => attribute === each.attribute)) found.push(each);
  });
  return found;
}

function evidenceFromName(name: string, source: Source, instrumentShare = 1): Evidence[] {
  if (name === '') return [];
  const reading = readName(name);
  const where = source === 'folder' ? 'folder' : source === 'tag' ? 'title' : 'name';
  const found: Evidence[] = [];
  if (reading.tempoBpm !== null)
    found.push(
      evidence(
        'tempo',
        source,
        tempoCandidates(reading.tempoBpm, reading.tempoIsMarked ? 0.9 : 0.85, reading.otherTempos),
        `${where} says ${reading.tempoBpm}`,
      ),
    );
  if (reading.key) found.push(evidence('key', source, keyCandidates(reading.key, reading), `${where} says ${keyName(reading.key)}`));
  if (reading.meter) found.push(evidence('meter', source, [{ value: reading.meter, probability: 0.9 }], `${where} says ${reading.meter}`));
  if (reading.bars !== null)
    found.push(evidence('beats', source, [{ value: reading.bars * 4, probability: 0.9 }], `${where} says ${reading.bars} bars`));
  if (reading.kind) found.push(evidence('kind', source, kindCandidates(reading.kind, source), `${where} says ${reading.kind}`));
  else if (reading.tempoBpm !== null && source === 'file-name')
    found.push(evidence('kind', source, kindsWithTempo(reading.tempoIsMarked), `${where} states a tempo`));
  if (reading.instrument && reading.instrumentWord)
    found.push(
      evidence(
        'instrument',
        source,
        instrumentCandidates(reading.instrument, reading.instrumentWord, instrumentShare),
        `${where} says ${reading.instrument.label.toLowerCase()}`,
      ),
    );
  return found;
}

/** A person has listened: as sure as a word can be that came with a file. */
const confirmedChance = 0.9999;

/** Evidence in tags inside the file. A `smpl` loop region speaks for a loop, and gives its length. */
function evidenceFromTags(tags: EmbeddedTags): Evidence[] {
  const found: Evidence[] = [];
  const confirmed = (attribute: string): boolean => tags.confirmed.includes(attribute);
  if (tags.tempoBpm !== null)
    found.push(
      confirmed('tempo')
        ? evidence(
            'tempo',
            'confirmed',
            [{ value: tags.tempoBpm, probability: confirmedChance }],
            `${tags.tempoBpm}, confirmed in another library`,
          )
        : evidence('tempo', 'tag', tempoCandidates(tags.tempoBpm, 0.88), `tag says ${tags.tempoBpm}`),
    );
  if (tags.key)
    found.push(
      confirmed('key')
        ? evidence(
            'key',
            'confirmed',
            [{ value: tags.key, probability: confirmedChance }],
            `${keyName(tags.key)}, confirmed in another library`,
          )
        : evidence('key', 'tag', [{ value: tags.key, probability: 0.9 }], `tag says ${keyName(tags.key)}`),
    );
  if (tags.loopFrames) found.push(evidence('kind', 'tag', [{ value: 'loop', probability: 0.8 }], 'the file marks a loop region'));
  if (!tags.key && tags.unityNote !== null) found.push(keyOfRoot(tags.unityNote));
  return found;
}

/** A sampler's root names a pitch and no mode, and many a program writes one that nobody has set. */
function keyOfRoot(note: number): Evidence {
  const tonic = pitchClass(note);
  return evidence(
    'key',
    'tag',
    (['minor', 'major'] as const).map((mode) => ({ value: { tonic, mode }, probability: 0.2 })),
    `the file marks ${pitchClassName(tonic)} as its pitch`,
  );
}

/** What is stated of a file, by its tags, its name and its folders. A title inside it speaks where all the others are silent. */
export function evidenceStated(tags: EmbeddedTags, path: string): Evidence[] {
  const found = [...evidenceFromTags(tags), ...(path ? evidenceFromPath(path) : [])],
    ofTitle = tags.title && path ? evidenceFromName(tags.title.slice(0, longestTitle), 'tag', titleShare) : [];
  return [...found, ...ofTitle.filter(({ attribute }) => !found.some((each) => each.attribute === attribute))];
}

const longestTitle = 300;
