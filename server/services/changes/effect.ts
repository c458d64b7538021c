import { attributeRow, type AttributeName } from '~core/analysis/attributes/registry';
import { titleBy, type Change } from '~core/library/change';
import { titleFromFileName } from '~core/names/parse-name';
import { instrumentById } from '~core/theory/instruments';
import { keyName, type Mode } from '~core/theory/key';

/** A loop as a change looks at it. */
export interface Changeable {
  readonly id: number;
  readonly title: string;
  readonly file: string;
  readonly packId: number;
  readonly setId: number | null;
  readonly setStem: string | null;
  readonly pack: string;
  readonly instrument: string | null;
  readonly tempoBpm: number | null;
  readonly keyTonic: number | null;
  readonly keyMode: Mode | null;
  readonly pitched: boolean | null;
  readonly archivedAt: Date | null;
  readonly kind: string;
  readonly tags: readonly string[];
  /** Names of the collections of who changes, in small letters. */
  readonly collections: readonly string[];
  /** What persons said of it, by attribute. */
  readonly words: Readonly<Record<string, { readonly value: unknown }>>;
}

export interface Effect {
  readonly before: string;
  readonly after: string;
}

/** Tags are one whatever letters they are written in. */
export const hasTag = ({ tags }: Changeable, name: string): boolean => tags.some((tag) => tag.toLowerCase() === name.toLowerCase());

const tempoText = (tempoBpm: number): string => String(Math.round(tempoBpm * 100) / 100);

/** What is shown of an attribute in the columns, for comparing; '' where they don't hold it. */
function shown(loop: Changeable, attribute: AttributeName): string {
  const word = loop.words[attribute];
  if (word) return attributeRow(attribute).inWords(word.value as never, 4);
  if (attribute === 'tempo') return loop.tempoBpm === null ? 'unknown' : tempoText(loop.tempoBpm);
  if (attribute === 'key')
    return loop.keyTonic !== null && loop.keyMode !== null
      ? keyName({ tonic: loop.keyTonic, mode: loop.keyMode })
      : loop.pitched === false
        ? 'unpitched'
        : 'unknown';
  if (attribute === 'instrument') return instrumentById(loop.instrument)?.label ?? 'unknown';
  if (attribute === 'kind') return attributeRow('kind').inWords(loop.kind as never, 4);
  return 'as heard';
}

/** What a change does to one loop, in words; null when it does nothing. @param place among the chosen, from 1 */
export function effectOf(loop: Changeable, change: Change, place: number): Effect | null {
  switch (change.kind) {
    case 'fact': {
      const { fromText, inWords } = attributeRow(change.attribute),
        before = shown(loop, change.attribute);
      if (change.value === null) return loop.words[change.attribute] ? { before, after: 'as heard' } : null;
      const after = inWords(fromText(change.value) as never, 4);
      return loop.words[change.attribute] && before === after ? null : { before, after };
    }
    case 'tempo-times': {
      if (loop.tempoBpm === null) return null;
      const tempo = loop.tempoBpm * change.factor;
      return tempo < 20 || tempo > 400 ? null : { before: tempoText(loop.tempoBpm), after: tempoText(tempo) };
    }
    case 'tag':
      return hasTag(loop, change.name) === change.isWanted
        ? null
        : { before: change.isWanted ? 'without' : change.name, after: change.isWanted ? change.name : 'without' };
    case 'title': {
      const after = titleBy(
        change.pattern,
        {
          title: loop.title,
          file: titleFromFileName(loop.file, loop.pack),
          pack: loop.pack,
          instrument: instrumentById(loop.instrument)?.label ?? '',
          tempo: loop.tempoBpm === null ? '' : String(Math.round(loop.tempoBpm)),
          key: loop.keyTonic !== null && loop.keyMode !== null ? keyName({ tonic: loop.keyTonic, mode: loop.keyMode }) : '',
        },
        place,
      );
      return after === null || after === loop.title ? null : { before: loop.title, after };
    }
    case 'pack':
      return loop.pack === change.name ? null : { before: loop.pack, after: change.name };
    case 'set':
      return (loop.setStem ?? '') === change.stem ? null : { before: loop.setStem ?? 'no set', after: change.stem || 'no set' };
    case 'collection':
      return loop.collections.includes(change.name.toLowerCase()) === change.isWanted
        ? null
        : { before: change.isWanted ? 'not in it' : 'in it', after: change.isWanted ? 'in it' : 'not in it' };
    case 'archive':
      return loop.archivedAt === null ? { before: 'in the library', after: 'archived' } : null;
  }
}
