/** @throws {RangeError} unless `value` lies in [lowest, highest]; the message names limits and value */
export function assertRange(name: string, value: number, lowest: number, highest: number): void {
  if (!(value >= lowest && value <= highest)) throw new RangeError(`${name} must be ${lowest} to ${highest}, got ${value}`);
}

/** @throws {RangeError} unless `value` is finite and above 0 */
export function assertPositive(name: string, value: number): void {
  if (!(value > 0 && Number.isFinite(value))) throw new RangeError(`${name} must be above 0, got ${value}`);
}
