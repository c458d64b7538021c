import type { Attribute as AttributeRow } from './attribute';
import { beats } from './beats';
import { character } from './character';
import { firstBar } from './first-bar';
import { genre } from './genre';
import { instrument } from './instrument';
import { key } from './key';
import { kind } from './kind';
import { landing } from './landing';
import { meter } from './meter';
import { setRole } from './set-role';
import { tempo } from './tempo';

/** All attributes, in the order in which they are shown. What is known of loops walks this table; a new attribute is a row here, a migration and what estimates it. */
export const registry = { kind, tempo, beats, meter, start: firstBar, key, instrument, genre, character, setRole, landing } as const;

export type AttributeName = keyof typeof registry;
export type FactValues = { readonly [A in AttributeName]: (typeof registry)[A] extends AttributeRow<infer V> ? V : never };

export const attributes = Object.keys(registry) as readonly AttributeName[];
/** The row of an attribute, for those who do not know which one it is: its values are unknown then. */
export const attributeRow = <A extends AttributeName>(name: A): AttributeRow<FactValues[A]> =>
  registry[name] as unknown as AttributeRow<FactValues[A]>;
/** Whether a text, from an address or a form, names an attribute. */
export const isAttribute = (text: string): text is AttributeName => Object.hasOwn(registry, text);

/** Facts by which a loop is found, and which one can judge by ear, in the order in which doubts are asked. */
export const doubtAttributes = (['tempo', 'key', 'instrument', 'kind'] as const).filter((name) => registry[name].isDoubted);
export type DoubtAttribute = (typeof doubtAttributes)[number];
