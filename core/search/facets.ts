import type { Facet } from '../analysis/attributes/attribute';
import { attributeRow, attributes } from '../analysis/attributes/registry';

const isId = (text: string): boolean => /^[1-9]\d{0,9}$/.test(text) && Number(text) <= 2_147_483_647;

const packFacet: Facet = {
  name: 'pack',
  label: 'pack',
  match: 'pack',
  column: 'pack_id',
  accepts: isId,
  inWords: () => 'a pack',
  choices: null,
};

const setFacet: Facet = {
  name: 'set',
  label: 'set',
  match: 'id',
  column: 'set_id',
  isCounted: false,
  accepts: isId,
  inWords: () => 'of one set',
  choices: null,
};

const collectionFacet: Facet = {
  name: 'collection',
  label: 'collection',
  match: 'collection',
  column: 'id',
  isCounted: false,
  accepts: isId,
  inWords: () => 'a collection',
  choices: null,
};

/** The vendor's folders, with all that lies in them. */
const folderFacet: Facet = {
  name: 'folder',
  label: 'folder',
  match: 'folder',
  column: 'vendor_path',
  isCounted: false,
  accepts: (text) => text.length > 1 && text.length <= 500 && text.endsWith('/'),
  inWords: (text) => `in ${text.slice(0, -1).split('/').at(-1)}`,
  choices: null,
};

/** All by which a list is narrowed: those of the attributes, in their order, and where it belongs. */
export const facets: readonly Facet[] = [
  ...attributes.flatMap((name) => attributeRow(name).facets),
  packFacet,
  setFacet,
  collectionFacet,
  folderFacet,
];

/** The filter of that name in an address; undefined for none. */
export const facetOf = (name: string): Facet | undefined => facets.find((facet) => facet.name === name);
