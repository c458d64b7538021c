import { genres } from '../../theory/genres';
import type { Attribute } from './attribute';
import { sayingsOfWords, severalOf } from './several';

/** What kind of music it is for, as names, folders and tags say; several may stand beside each other. */
export const genre: Attribute<readonly string[]> = {
  ...severalOf(genres, { label: 'Genre', column: 'genres', facet: 'genre' }),
  heardIn: 'labels',
  fromNames: (file) => sayingsOfWords(genres, file),
};
