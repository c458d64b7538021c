/** How many loops there are of each choice of each facet. */
export type FacetCounts = Readonly<Record<string, readonly { readonly value: string; readonly count: number }[]>>;
