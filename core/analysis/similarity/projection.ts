import { halves } from '../learned/network';

/** A linear map of scaled inputs, as kept in a file: numbers as 16-bit floats in base64. */
export interface ProjectionFile {
  readonly made: string;
  readonly inputs: number;
  readonly outputs: number;
  /** Means, then deviations, of the inputs. */
  readonly scaling: string;
  /** Row after row. */
  readonly rows: string;
}

export interface Projection {
  readonly inputs: number;
  readonly mean: Float32Array;
  readonly deviation: Float32Array;
  readonly rows: Float32Array;
}

/** @throws {RangeError} when the file's sizes and its numbers do not agree */
export function readProjection({ inputs, outputs, scaling, rows }: ProjectionFile): Projection {
  const scale = halves(scaling),
    all = halves(rows);
  if (scale.length !== 2 * inputs || all.length !== inputs * outputs)
    throw new RangeError(`projection: ${all.length} numbers for ${inputs} × ${outputs}`);
  return { inputs, mean: scale.subarray(0, inputs), deviation: scale.subarray(inputs), rows: all };
}
