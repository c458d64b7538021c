/** Why a file cannot be used: a closed list, so that every cause has a sentence for the person. */
export type FormatErrorCode = 'empty' | 'foreign' | 'truncated' | 'broken' | 'unsupported' | 'too-long';

/** The world's mistake, not the caller's: the file is not what it says. `message` is written for a producer. */
export class FormatError extends Error {
  constructor(
    readonly code: FormatErrorCode,
    message: string,
    options?: { readonly cause: unknown },
  ) {
    super(message, options);
    this.name = 'FormatError';
  }
}
