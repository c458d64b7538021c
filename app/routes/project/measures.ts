/** Pixels that the timeline's parts agree on. */
export const headWidth = 212,
  rulerHeight = 40;
/** A track's height, as one chooses it for each. */
export const trackHeights = { large: 66, small: 34 } as const;
export type TrackSize = keyof typeof trackHeights;

export const leastBarPixels = 4,
  mostBarPixels = 1200;
