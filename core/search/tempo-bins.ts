/** Width of a bar of the tempo chart. */
export const tempoBinBpm = 4;
