import { attributeRow } from './attributes/registry';
import type { Evidence } from './facts';
import type { Part } from './parts';

/** Whether an evidence is one that these parts give; never so for what persons, projects, sets and packs say. */
export function isSaidBy(some: ReadonlySet<Part>, { attribute, source }: Pick<Evidence, 'attribute' | 'source'>): boolean {
  const { heardIn, fromNames } = attributeRow(attribute);
  switch (source) {
    case 'person':
    case 'project':
    case 'set':
    case 'pack':
      return false;
    case 'confirmed':
    case 'tag':
    case 'file-name':
    case 'folder':
      return some.has(fromNames ? 'labels' : 'names');
    default:
      return some.has(heardIn);
  }
}
