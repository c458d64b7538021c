import type { Analysis } from '~core/analysis/analysis';
import { analyseSoundFile } from '../server/jobs/pool/analyse-file';
import { FormatError } from '~core/formats/errors';

export interface DescribeRequest {
  readonly filePath: string;
  /** What is believed of names; empty for the sound alone. */
  readonly vendorPath: string;
  readonly withTags: boolean;
}
export type DescribeResult = { readonly ok: true; readonly analysis: Analysis } | { readonly ok: false; readonly message: string };

/** Why a file cannot even be opened. */
const unopened: Readonly<Record<string, string>> = {
  ENOENT: 'There is no such file: the link to it leads nowhere.',
  EACCES: 'The file may not be read by this user.',
  EPERM: 'The file may not be read by this user.',
  EISDIR: 'This is a folder with the name of a sound file.',
};

/** What is wrong with one file, in words: nothing about it may cost the others. */
function complaint(error: unknown): string {
  if (error instanceof FormatError) return error.message;
  const { code, message } = error as NodeJS.ErrnoException;
  return unopened[code ?? ''] ?? `The file could not be analysed: ${message}`;
}

/** A thread of the command that analyses files outside the library. */
export default async function describe({ filePath, vendorPath, withTags }: DescribeRequest): Promise<DescribeResult> {
  try {
    const { analysis } = await analyseSoundFile(filePath, vendorPath, { withTags, wavPath: null });
    return { ok: true, analysis };
  } catch (error) {
    return { ok: false, message: complaint(error) };
  }
}
