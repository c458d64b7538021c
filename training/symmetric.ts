/** A square matrix, row after row. */
export type Matrix = Float64Array;

/**
 * Eigenvalues and vectors of a symmetric matrix by Jacobi's rotations (Golub & Van Loan, from memory), the largest first; `vectors` holds
 * one a row.
 */
export function eigen(symmetric: Matrix, size: number): { values: number[]; vectors: Float64Array[] } {
  const a = symmetric.slice(),
    v = new Float64Array(size * size);
  for (let k = 0; k < size; k++) v[k * size + k] = 1;
  for (let sweep = 0; sweep < 40; sweep++) {
    let off = 0,
      on = 0;
    for (let p = 0; p < size; p++)
      for (let q = 0; q < size; q++) {
        const square = a[p * size + q] ** 2;
        if (p === q) on += square;
        else off += square;
      }
    if (off < 1e-20 * on) break;
    for (let p = 0; p < size; p++)
      for (let q = p + 1; q < size; q++) {
        const apq = a[p * size + q];
        if (apq === 0) continue;
        const theta = (a[q * size + q] - a[p * size + p]) / (2 * apq),
          t = Math.sign(theta || 1) / (Math.abs(theta) + Math.sqrt(theta * theta + 1)),
          c = 1 / Math.sqrt(t * t + 1),
          s = t * c;
        for (let k = 0; k < size; k++) {
          const kp = a[k * size + p],
            kq = a[k * size + q];
          a[k * size + p] = c * kp - s * kq;
          a[k * size + q] = s * kp + c * kq;
        }
        for (let k = 0; k < size; k++) {
          const pk = a[p * size + k],
            qk = a[q * size + k];
          a[p * size + k] = c * pk - s * qk;
          a[q * size + k] = s * pk + c * qk;
          const vp = v[p * size + k],
            vq = v[q * size + k];
          v[p * size + k] = c * vp - s * vq;
          v[q * size + k] = s * vp + c * vq;
        }
      }
  }
  const order = Array.from({ length: size }, (_, k) => k).sort((x, y) => a[y * size + y] - a[x * size + x]);
  return { values: order.map((k) => a[k * size + k]), vectors: order.map((k) => v.slice(k * size, (k + 1) * size)) };
}

/** Mean of the outer products of `rows`. */
export function scatter(rows: readonly ArrayLike<number>[], size: number): Matrix {
  const out = new Float64Array(size * size);
  for (const row of rows)
    for (let p = 0; p < size; p++) {
      const value = row[p] / rows.length;
      if (value !== 0) for (let q = 0; q <= p; q++) out[p * size + q] += value * row[q];
    }
  for (let p = 0; p < size; p++) for (let q = p + 1; q < size; q++) out[p * size + q] = out[q * size + p];
  return out;
}
