import type { Facet } from '../analysis/attributes/attribute';
import { attributeRow, attributes } from '../analysis/attributes/registry';

const packFacet: Facet = {
  name: 'pack',
  label: 'pack',
  match: 'id',
  column: 'pack_id',
  accepts: (text) => /^[1-9]\d{0,9}$/.test(text) && Number(text) <= 2_147_483_647,
  inWords: () => 'a pack',
  choices: null,
};

/** All by which a list is narrowed: those of the attributes, in their order, and the pack. */
export const facets: readonly Facet[] = [...attributes.flatMap((name) => attributeRow(name).facets), packFacet];

/** The filter of that name in an address; undefined for none. */
export const facetOf = (name: string): Facet | undefined => facets.find((facet) => facet.name === name);
