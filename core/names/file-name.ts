/** Characters that names of files cannot hold on some machine (common practice). */
const unfit = /[\\/:*?"<>|\p{Cc}]/gu;

/** Longer ones some machines cut. */
const mostLetters = 120;

/**
 * A name of ours as every machine takes it for a file, without ending: what is left of it, or `otherwise` where that is nothing.
 * @example fileNameOf('Bass: low.', 'Track') // => 'Bass- low'
 */
export const fileNameOf = (name: string, otherwise: string): string =>
  name
    .replace(unfit, '-')
    .slice(0, mostLetters)
    // One that begins with a dot is hidden, one that ends in a dot or blank is cut there by some.
    .replace(/^\.+|[. ]+$/g, '')
    .trim() || otherwise;
