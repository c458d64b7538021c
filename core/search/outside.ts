import { readLine, type PartMeaning } from './line';
import { chosenOf, type LoopQuery } from './query';

/** What an index doesn't hold of loops, because it is of a person, of a project or of lists by hand: told with each question as ids. */
export type Outside =
  | { readonly kind: 'favourites' }
  | { readonly kind: 'used' }
  | { readonly kind: 'rated'; readonly stars: number }
  | { readonly kind: 'tag'; readonly name: string }
  /** Ids of people. */
  | { readonly kind: 'people'; readonly name: string }
  | { readonly kind: 'collection'; readonly id: number }
  /** Loops that belong to a pack though they lie in another. */
  | { readonly kind: 'linked'; readonly packId: number };

/** The name by which what is told is found again. */
export const outsideName = (outside: Outside): string => Object.values(outside).join(':');

function ofPart(meaning: PartMeaning): Outside | null {
  switch (meaning.kind) {
    case 'by':
      return { kind: 'people', name: meaning.name };
    case 'rated':
      return { kind: 'rated', stars: meaning.stars };
    case 'named':
      return meaning.field === 'tag' ? { kind: 'tag', name: meaning.name } : null;
    case 'is':
      return meaning.what === 'favourite'
        ? { kind: 'favourites' }
        : meaning.what === 'used' || meaning.what === 'unused'
          ? { kind: 'used' }
          : null;
    default:
      return null;
  }
}

/** All that has to be told for a query. */
export const outsideOf = (query: LoopQuery): Outside[] => [
  ...readLine(query.words).parts.flatMap(({ meaning }) => ofPart(meaning) ?? []),
  ...(query.favourites ? [{ kind: 'favourites' } as const] : []),
  ...chosenOf(query, 'collection').map((id) => ({ kind: 'collection', id: Number(id) }) as const),
  ...chosenOf(query, 'pack').map((id) => ({ kind: 'linked', packId: Number(id) }) as const),
];
