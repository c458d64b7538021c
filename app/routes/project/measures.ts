/** Pixels that the timeline's parts agree on. */
export const headWidth = 212;
export const trackHeight = 66;
