import type { Analysis } from '~core/analysis/analysis';
import { hearFile } from './hear-file';
import { FormatError } from '~core/formats/errors';

export interface DescribeRequest {
  readonly filePath: string;
  /** What is believed of names; empty for the sound alone. */
  readonly vendorPath: string;
  readonly withTags: boolean;
}
export type DescribeResult = { readonly ok: true; readonly analysis: Analysis } | { readonly ok: false; readonly message: string };

/** A thread of the command that analyses files outside the library. */
export default async function describe({ filePath, vendorPath, withTags }: DescribeRequest): Promise<DescribeResult> {
  try {
    const { analysis } = await hearFile(filePath, vendorPath, { withTags, wavPath: null });
    return { ok: true, analysis };
  } catch (error) {
    if (error instanceof FormatError) return { ok: false, message: error.message };
    throw error;
  }
}
