/** The value below which a share of a list lies; NaN of an empty one. @param share 0–1 */
export const quantile = (list, share) => [...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(list.length * share))] ?? NaN;
