import { characters } from '../../theory/characters';
import type { Attribute } from './attribute';
import { sayingsOfWords, severalOf } from './several';

/** Only what is clearly on one side of its formula is said at all. */
const measuredChance = 0.85;

/** How it sounds, as names say and as is measured; several words stand beside each other. */
export const character: Attribute<readonly string[]> = {
  ...severalOf(characters, { label: 'Character', column: 'characters', facet: 'character' }),
  heardIn: 'bars',
  // What a file is tagged as is its genre, no word for its sound.
  fromNames: (file) => sayingsOfWords(characters, { ...file, genreTag: null }),
  fromCharacter: (words) =>
    words.length === 0
      ? []
      : [
          {
            source: 'sound',
            candidates: words.map((word) => ({ value: [word], probability: measuredChance })),
            reason: `measured: ${words.join(', ')}`,
          },
        ],
};
