import { setRoleOf, setRoles } from '../../names/set-role';
import { usual, type Attribute } from './attribute';

const isRole = (text: string): boolean => Object.hasOwn(setRoles, text);
const choices = Object.entries(setRoles).map(([value, { label }]) => ({ value, label }));

/** Which part a loop has among the others of its set. */
export const setRole: Attribute<string> = {
  ...usual,
  label: 'Role in set',
  toText: (value) => value,
  fromText: (text) => (isRole(text) ? text : null),
  inWords: (value) => setRoles[value]?.label ?? value,
  choices,
  heardIn: 'labels',
  columns: [{ name: 'setRole', type: 'text', of: (value) => value }],
  facets: [
    {
      name: 'role',
      label: 'role in set',
      match: 'text',
      column: 'set_role',
      accepts: isRole,
      inWords: (text) => (setRoles[text]?.label ?? text).toLowerCase(),
      choices,
    },
  ],
  fromNames: ({ path }) => {
    const role = setRoleOf(path.split('/').at(-1) ?? '');
    return role === null
      ? []
      : [
          {
            source: 'file-name',
            candidates: [{ value: role, probability: 0.85 }],
            reason: `name says ${setRoles[role].label.toLowerCase()}`,
          },
        ];
  },
};
