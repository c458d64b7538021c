import { usual, type Attribute } from './attribute';
import { loopKinds, type LoopKind } from './loop-kinds';

const isKind = (text: string): text is LoopKind => Object.hasOwn(loopKinds, text);
const choices = Object.entries(loopKinds).map(([value, label]) => ({ value, label }));

export const kind: Attribute<LoopKind> = {
  ...usual,
  label: 'Kind',
  toText: (value) => value,
  fromText: (text) => (isKind(text) ? text : null),
  inWords: (value) => loopKinds[value],
  choices,
  isDoubted: true,
  heardIn: 'kind',
  shapesBars: true,
  columns: [{ name: 'kind', type: 'text', of: (_, { kind }) => kind }],
  facets: [
    {
      name: 'kind',
      label: 'kind',
      match: 'text',
      column: 'kind',
      accepts: isKind,
      inWords: (text) => loopKinds[text as LoopKind].toLowerCase(),
      choices,
    },
  ],
};
