/** `Number.isFinite` for what is asked of every sample: looked up as a global it costs a microsecond a time in the sandbox of the tests. */
export const { isFinite: isANumber } = Number;
