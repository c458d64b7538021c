import { allInstruments, families, instrumentById, type Family } from '../../theory/instruments';
import { usual, type Attribute } from './attribute';

/** Also what the group has added. */
const choicesNow = () => allInstruments().map(({ id, label }) => ({ value: id, label }));
const isFamily = (text: string): text is Family => Object.hasOwn(families, text);

export const instrument: Attribute<string> = {
  ...usual,
  label: 'Instrument',
  // Recordings sound like nothing that the classifier learned from more often than loops defy the ranking of tempos.
  trust: { sound: 0.88 },
  // What is told by sound, or by a word for all of the kin, says nothing against the one of them that a name means.
  alsoSupports: (said, value) => instrumentById(value)?.soundsAs === said,
  toText: (value) => value,
  fromText: (text) => instrumentById(text)?.id ?? null,
  inWords: (value) => instrumentById(value)?.label ?? value,
  get choices() {
    return choicesNow();
  },
  isDoubted: true,
  heardIn: 'instrument',
  columns: [
    { name: 'instrument', type: 'text', of: (_, { instrument }) => instrument },
    { name: 'family', type: 'text', of: (_, { family }) => family },
  ],
  facets: [
    {
      name: 'family',
      label: 'family',
      match: 'text',
      column: 'family',
      accepts: isFamily,
      inWords: (text) => families[text as Family].label.toLowerCase(),
      choices: Object.entries(families).map(([value, { label }]) => ({ value, label })),
    },
    {
      name: 'instrument',
      label: 'instrument',
      match: 'text',
      column: 'instrument',
      accepts: (text) => instrumentById(text) !== null,
      inWords: (text) => (instrumentById(text)?.label ?? text).toLowerCase(),
      get choices() {
        return choicesNow();
      },
    },
  ],
};
