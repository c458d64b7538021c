import { allKeys, keyCode, keyName, parseKeyCode, sameKey, type Key } from '../../theory/key';
import { usual, type Attribute } from './attribute';

/** `unpitched` and `no-single-key` (tuned, but it turns to other keys, wanders or has no home) are answers; "don't know" is the absence of a fact. */
export type KeyValue = Key | 'unpitched' | 'no-single-key';
/** Whether a value is a key, and not one of the two answers that there is none. */
export const isKey = (value: KeyValue): value is Key => typeof value === 'object';
const keyless = [
  { value: 'unpitched', code: 'un', label: 'unpitched' },
  { value: 'no-single-key', code: 'no', label: 'no single key' },
] as const;

/** `D minor`, `unpitched`, `no single key`. */
export const keyValueName = (value: KeyValue): string =>
  isKey(value) ? keyName(value) : (keyless.find((each) => each.value === value)?.label ?? value);
/** The code of a value in addresses and forms: `5m`, `0M`, `un`, `no`. */
export const keyValueCode = (value: KeyValue): string =>
  isKey(value) ? keyCode(value) : (keyless.find((each) => each.value === value)?.code ?? value);
/** @returns null for what is no such code */
export const parseKeyValueCode = (code: string): KeyValue | null => keyless.find((each) => each.code === code)?.value ?? parseKeyCode(code);

/** The answers that are no key, for lists to choose from. */
export const keylessChoices = keyless.map(({ code, label }) => ({ value: code, label }));
const choices = [...keylessChoices, ...allKeys.map((each) => ({ value: keyCode(each), label: keyName(each) }))];

export const key: Attribute<KeyValue> = {
  ...usual,
  label: 'Key',
  same: (a, b) => a === b || (isKey(a) && isKey(b) && sameKey(a, b)),
  toText: keyValueCode,
  fromText: parseKeyValueCode,
  inWords: keyValueName,
  choices,
  isDoubted: true,
  heardIn: 'key',
  columns: [
    { name: 'keyTonic', type: 'smallint', of: (_, settled) => settled.key?.tonic ?? null },
    { name: 'keyMode', type: 'text', of: (_, settled) => settled.key?.mode ?? null },
    { name: 'pitched', type: 'boolean', of: (_, { pitched }) => pitched },
  ],
  facets: [
    {
      name: 'key',
      label: 'key',
      match: 'key',
      column: 'key_tonic',
      accepts: (text) => parseKeyValueCode(text) !== null,
      inWords: (text) => {
        const value = parseKeyValueCode(text);
        return value === null ? text : isKey(value) ? `in ${keyName(value)}` : keyValueName(value);
      },
      choices,
    },
  ],
};
