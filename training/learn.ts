import { fromHalf, toHalf, type Ensemble, type EnsembleFile, type Layers } from '../core/analysis/learned/network';
import { createRandom } from '../core/synth/random';

/** One training example: rows of inputs, of which the targets are the right ones (probabilities that sum to 1). */
export interface Group {
  /** One row for a classifier; a row per candidate for a ranking. */
  readonly rows: readonly Float32Array[];
  readonly targets: Float32Array;
  readonly weight: number;
}

export interface Recipe {
  readonly hidden: number;
  readonly outputs: number;
  readonly epochs: number;
  readonly rate: number;
  readonly decay: number;
  /** Deviation of noise added to scaled inputs, against learning a source by heart. */
  readonly noise: number;
  readonly dropout: number;
  /** Share of steps that train on a blend of two examples and their targets (mixup; Zhang et al. 2018); for classifiers only. */
  readonly mixup?: number;
  /** Each output by itself yes or no (a sigmoid), where several can be right at once. */
  readonly several?: boolean;
  readonly seed: number;
}

export function scaling(rows: readonly Float32Array[]): { mean: Float32Array; deviation: Float32Array } {
  const size = rows[0].length,
    mean = new Float64Array(size),
    square = new Float64Array(size);
  for (const row of rows) for (let k = 0; k < size; k++) mean[k] += row[k] / rows.length;
  for (const row of rows) for (let k = 0; k < size; k++) square[k] += (row[k] - mean[k]) ** 2 / rows.length;
  return { mean: Float32Array.from(mean), deviation: Float32Array.from(square, (value) => Math.max(1e-4, Math.sqrt(value))) };
}

export const scaled = (row: Float32Array, { mean, deviation }: { mean: Float32Array; deviation: Float32Array }): Float32Array =>
  row.map((value, k) => Math.max(-6, Math.min(6, (value - mean[k]) / deviation[k])));

/**
 * A network of one hidden layer, by Adam (Kingma & Ba 2015) on the cross-entropy of a softmax over all outputs of all rows of a group:
 * one row is a classifier, several rows with one output are a ranking. With `several`, each output has a cross-entropy of its own. Rows are
 * scaled already. Seeded.
 */
export function trainNetwork(groups: readonly Group[], recipe: Recipe): Layers {
  const { hidden, outputs } = recipe,
    inputs = groups[0].rows[0].length,
    random = createRandom(recipe.seed);
  const normal = () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
  const parameters = [
    Float32Array.from({ length: hidden * inputs }, () => normal() * Math.sqrt(2 / inputs)),
    new Float32Array(hidden),
    Float32Array.from({ length: outputs * hidden }, () => normal() * Math.sqrt(1 / hidden)),
    new Float32Array(outputs),
  ];
  const gradients = parameters.map((each) => new Float32Array(each.length)),
    first = parameters.map((each) => new Float32Array(each.length)),
    second = parameters.map((each) => new Float32Array(each.length));
  const [w1, b1, w2, b2] = parameters,
    [g1, gb1, g2, gb2] = gradients,
    batch = 24,
    order = groups.map((_, k) => k);
  const activations: Float32Array[] = [],
    noisy: Float32Array[] = [];
  const scratch = (list: Float32Array[], index: number, size: number) => (list[index] ??= new Float32Array(size));
  // Noise is drawn once and used in turns: a normal number per input and step would cost more than the network.
  const noiseTable = Float32Array.from({ length: 1 << 16 }, () => normal() * recipe.noise);
  const blend = groups[0].rows.length === 1 ? (recipe.mixup ?? 0) : 0;
  const blended = (group: Group): Group => {
    if (blend === 0 || random() >= blend) return group;
    const other = groups[Math.floor(random() * groups.length)],
      share = 0.5 + 0.5 * random(),
      mix = (a: Float32Array, b: Float32Array) => a.map((value, k) => share * value + (1 - share) * b[k]);
    return { rows: [mix(group.rows[0], other.rows[0])], targets: mix(group.targets, other.targets), weight: group.weight };
  };
  let noiseAt = 0,
    step = 0;
  const steps = recipe.epochs * Math.ceil(groups.length / batch);
  for (let epoch = 0; epoch < recipe.epochs; epoch++) {
    for (let k = order.length - 1; k > 0; k--) {
      const other = Math.floor(random() * (k + 1));
      [order[k], order[other]] = [order[other], order[k]];
    }
    for (let from = 0; from < order.length; from += batch) {
      for (const each of gradients) each.fill(0);
      const to = Math.min(order.length, from + batch);
      for (let n = from; n < to; n++) {
        const { rows, targets, weight } = blended(groups[order[n]]);
        const logits = new Float32Array(rows.length * outputs);
        const keep = Float32Array.from({ length: hidden }, () => (random() < recipe.dropout ? 0 : 1 / (1 - recipe.dropout)));
        noiseAt = Math.floor(random() * 65536);
        rows.forEach((row, r) => {
          const x = scratch(noisy, r, inputs),
            h = scratch(activations, r, hidden);
          for (let i = 0; i < inputs; i++) x[i] = row[i] + noiseTable[(noiseAt + i) & 65535];
          for (let j = 0; j < hidden; j++) {
            if (keep[j] === 0) {
              h[j] = 0;
              continue;
            }
            let sum = b1[j];
            const base = j * inputs;
            for (let i = 0; i < inputs; i++) sum += w1[base + i] * x[i];
            h[j] = sum > 0 ? sum * keep[j] : 0;
          }
          for (let o = 0; o < outputs; o++) {
            let sum = b2[o];
            for (let j = 0; j < hidden; j++) sum += w2[o * hidden + j] * h[j];
            logits[r * outputs + o] = sum;
          }
        });
        let most = -Infinity,
          total = recipe.several ? 1 : 0;
        if (recipe.several) for (let k = 0; k < logits.length; k++) logits[k] = 1 / (1 + Math.exp(-logits[k]));
        else {
          for (const value of logits) most = Math.max(most, value);
          for (let k = 0; k < logits.length; k++) total += logits[k] = Math.exp(logits[k] - most);
        }
        rows.forEach((_, r) => {
          const x = noisy[r],
            h = activations[r],
            back = new Float32Array(hidden);
          for (let o = 0; o < outputs; o++) {
            const k = r * outputs + o,
              error = (weight * (logits[k] / total - targets[k])) / (to - from);
            if (Math.abs(error) < 1e-7) continue;
            gb2[o] += error;
            for (let j = 0; j < hidden; j++) {
              g2[o * hidden + j] += error * h[j];
              back[j] += error * w2[o * hidden + j];
            }
          }
          for (let j = 0; j < hidden; j++) {
            if (h[j] <= 0 || back[j] === 0) continue;
            const error = back[j] * keep[j],
              base = j * inputs;
            gb1[j] += error;
            for (let i = 0; i < inputs; i++) g1[base + i] += error * x[i];
          }
        });
      }
      step++;
      const rate = recipe.rate * (step < 100 ? step / 100 : 0.5 + 0.5 * Math.cos((Math.PI * step) / steps)),
        bias1 = 1 - 0.9 ** step,
        bias2 = 1 - 0.999 ** step;
      parameters.forEach((values, p) => {
        const g = gradients[p],
          m = first[p],
          v = second[p],
          shrink = p % 2 === 0 ? recipe.decay : 0;
        for (let k = 0; k < values.length; k++) {
          m[k] = 0.9 * m[k] + 0.1 * g[k];
          v[k] = 0.999 * v[k] + 0.001 * g[k] * g[k];
          values[k] -= rate * (m[k] / bias1 / (Math.sqrt(v[k] / bias2) + 1e-8) + shrink * values[k]);
        }
      });
    }
  }
  return { inputs, hidden, outputs, hiddenWeights: w1, hiddenBias: b1, outputWeights: w2, outputBias: b2 };
}

type Scale = Pick<Ensemble, 'mean' | 'deviation'>;

/** A network that was made behind one scaling of its inputs, for another: it says the same (but for inputs that are held to ±6). */
export function rescaled(net: Layers, made: Scale, wanted: Scale): Layers {
  const { hidden, inputs } = net,
    hiddenWeights = new Float32Array(hidden * inputs),
    hiddenBias = net.hiddenBias.slice();
  for (let h = 0; h < hidden; h++)
    for (let k = 0; k < inputs; k++) {
      const weight = net.hiddenWeights[h * inputs + k] / (made.deviation[k] || 1);
      hiddenWeights[h * inputs + k] = weight * wanted.deviation[k];
      hiddenBias[h] += weight * (wanted.mean[k] - made.mean[k]);
    }
  return { ...net, hiddenWeights, hiddenBias };
}

/** Networks that get to know more inputs, `extra` of them before input `at`: until they are trained anew the new ones say nothing. */
export function widened(ensemble: Ensemble, at: number, extra: number): Ensemble {
  const wide = (values: Float32Array, rows: number, filling: number): Float32Array => {
    const inputs = values.length / rows,
      out = new Float32Array(rows * (inputs + extra)).fill(filling);
    for (let row = 0; row < rows; row++) {
      out.set(values.subarray(row * inputs, row * inputs + at), row * (inputs + extra));
      out.set(values.subarray(row * inputs + at, (row + 1) * inputs), row * (inputs + extra) + at + extra);
    }
    return out;
  };
  return {
    ...ensemble,
    mean: wide(ensemble.mean, 1, 0),
    deviation: wide(ensemble.deviation, 1, 1),
    networks: ensemble.networks.map((net) => ({
      ...net,
      inputs: net.inputs + extra,
      hiddenWeights: wide(net.hiddenWeights, net.hidden, 0),
    })),
  };
}

/** Numbers of all lists as 16-bit floats in base64. */
export const packed = (lists: readonly ArrayLike<number>[]): string => {
  const size = lists.reduce((sum, list) => sum + list.length, 0),
    bytes = Buffer.alloc(size * 2);
  let at = 0;
  for (const list of lists) for (let k = 0; k < list.length; k++) at = bytes.writeUInt16LE(toHalf(list[k]), at);
  return bytes.toString('base64');
};

/** A network's hidden weights in bytes, each row by its own scale; see `EnsembleFile`. */
function packedInBytes({ inputs, hidden, hiddenWeights, hiddenBias, outputWeights, outputBias }: Layers): string {
  const scales = Float32Array.from({ length: hidden }, (_, row) => {
      let most = 1e-6;
      for (let k = 0; k < inputs; k++) most = Math.max(most, Math.abs(hiddenWeights[row * inputs + k]));
      // As it will be read, so that rounding is to what is there; a step up, so that the largest stays within 127.
      return fromHalf(toHalf((most / 127) * 1.001));
    }),
    bytes = Buffer.from(Int8Array.from(hiddenWeights, (value, k) => Math.round(value / scales[Math.floor(k / inputs)])).buffer);
  return Buffer.concat([
    Buffer.from(packed([scales]), 'base64'),
    bytes,
    Buffer.from(packed([hiddenBias, outputWeights, outputBias]), 'base64'),
  ]).toString('base64');
}

/** @param bits 8: the hidden layers in bytes, else all in 16-bit floats */
export function packEnsemble(
  networks: readonly Layers[],
  scale: { mean: Float32Array; deviation: Float32Array },
  labels: readonly string[],
  temperature: number,
  made: string,
  bits = 16,
): EnsembleFile {
  const { inputs, hidden, outputs } = networks[0];
  return {
    made,
    inputs,
    hidden,
    outputs,
    labels,
    temperature,
    scaling: packed([scale.mean, scale.deviation]),
    ...(bits === 8 ? { bits } : {}),
    networks: networks.map((net) =>
      bits === 8 ? packedInBytes(net) : packed([net.hiddenWeights, net.hiddenBias, net.outputWeights, net.outputBias]),
    ),
  };
}
