import { KernelNumbers, kernels } from '../../dsp/kernels/kernels';
import { bytesFromBase64 } from '../../formats/base64';

/** Weights of one small network: inputs → hidden (ReLU) → outputs, all rows after each other. */
export interface Layers {
  readonly inputs: number;
  readonly hidden: number;
  readonly outputs: number;
  readonly hiddenWeights: Float32Array;
  readonly hiddenBias: Float32Array;
  readonly outputWeights: Float32Array;
  readonly outputBias: Float32Array;
}

/** Several networks that are asked together, behind one scaling of the inputs. */
export interface Ensemble {
  readonly mean: Float32Array;
  readonly deviation: Float32Array;
  readonly networks: readonly Layers[];
  readonly labels: readonly string[];
  /** Logits are divided by it, so that probabilities mean what they say (temperature scaling; Guo et al. 2017). */
  readonly temperature: number;
}

/**
 * As weights are kept in a file: numbers as 16-bit floats in base64. With `bits` 8 the weights of the hidden layer are whole numbers of a byte,
 * each row by a scale of its own; the scales come first. That halves the file and moves no answer by more than its own doubt.
 */
export interface EnsembleFile {
  readonly inputs: number;
  readonly hidden: number;
  readonly outputs: number;
  readonly labels: readonly string[];
  readonly temperature: number;
  readonly scaling: string;
  readonly bits?: number;
  readonly networks: readonly string[];
  /** The run that made them, in words. */
  readonly made: string;
}

/** Half-precision number from its 16 bits (IEEE 754-2008 binary16). */
export function fromHalf(bits: number): number {
  const sign = bits & 0x8000 ? -1 : 1,
    exponent = (bits >> 10) & 31,
    fraction = bits & 1023;
  if (exponent === 0) return sign * fraction * 2 ** -24;
  if (exponent === 31) return fraction ? NaN : sign * Infinity;
  return sign * (1 + fraction / 1024) * 2 ** (exponent - 15);
}

/** Bits of the half-precision number nearest to a value; what is too large becomes the largest. */
export function toHalf(value: number): number {
  const sign = value < 0 || Object.is(value, -0) ? 0x8000 : 0,
    size = Math.min(65504, Math.abs(value));
  if (size < 2 ** -24) return sign;
  const exponent = Math.max(-14, Math.floor(Math.log2(size)));
  const fraction = Math.round((size / 2 ** exponent) * 1024);
  if (exponent === -14 && fraction < 1024) return sign | fraction;
  return fraction === 2048 ? sign | ((exponent + 16) << 10) : sign | ((exponent + 15) << 10) | (fraction - 1024);
}

const halvesOf = (bytes: Uint8Array): Float32Array =>
  Float32Array.from({ length: bytes.length / 2 }, (_, k) => fromHalf(bytes[2 * k] | (bytes[2 * k + 1] << 8)));

/** Numbers kept as 16-bit floats in base64. */
export const halves = (text: string): Float32Array => halvesOf(bytesFromBase64(text));

/** All numbers of a network after each other, whichever way they are kept. */
function numbersOf(text: string, { inputs, hidden, bits }: EnsembleFile): Float32Array {
  if (bits !== 8) return halves(text);
  const bytes = bytesFromBase64(text),
    scales = halvesOf(bytes.subarray(0, hidden * 2)),
    weights = new Int8Array(bytes.slice(hidden * 2, hidden * (2 + inputs)).buffer),
    rest = halvesOf(bytes.subarray(hidden * (2 + inputs))),
    all = new Float32Array(weights.length + rest.length);
  for (let k = 0; k < weights.length; k++) all[k] = weights[k] * scales[Math.floor(k / inputs)];
  all.set(rest, weights.length);
  return all;
}

/** @throws {RangeError} when the file's sizes and its numbers do not agree */
export function readEnsemble(file: EnsembleFile): Ensemble {
  const { inputs, hidden, outputs } = file,
    scaling = halves(file.scaling),
    sizes = [inputs * hidden, hidden, hidden * outputs, outputs];
  if (scaling.length !== 2 * inputs) throw new RangeError(`weights: ${scaling.length} scalings for ${inputs} inputs`);
  return {
    mean: scaling.subarray(0, inputs),
    deviation: scaling.subarray(inputs),
    labels: file.labels,
    temperature: file.temperature,
    networks: file.networks.map((text) => {
      const all = numbersOf(text, file);
      if (all.length !== sizes.reduce((a, b) => a + b, 0)) throw new RangeError(`weights: ${all.length} numbers for ${sizes.join(' + ')}`);
      let at = 0;
      const [hiddenWeights, hiddenBias, outputWeights, outputBias] = sizes.map((size) => all.subarray(at, (at += size)));
      return { inputs, hidden, outputs, hiddenWeights, hiddenBias, outputWeights, outputBias };
    }),
  };
}

/** Inputs by mean and deviation, held to ±6 so that one odd measure cannot shout down the rest. */
export function scaleInputs({ mean, deviation }: Pick<Ensemble, 'mean' | 'deviation'>, inputs: ArrayLike<number>): Float32Array {
  const out = new Float32Array(mean.length);
  for (let k = 0; k < out.length; k++) out[k] = Math.max(-6, Math.min(6, (inputs[k] - mean[k]) / (deviation[k] || 1)));
  return out;
}

/** A network in the memory of the kernels: rows padded with zeros to whole steps of four. */
interface Placed {
  readonly inputs: number;
  readonly hidden: number;
  readonly hiddenWeights: KernelNumbers;
  readonly hiddenBias: KernelNumbers;
  readonly outputWeights: KernelNumbers;
  readonly outputBias: KernelNumbers;
}

const placed = new WeakMap<Layers, Placed>();
/** The inputs of the network that runs, what its hidden layer says, and the outputs; as long as the longest yet. */
let scratch: KernelNumbers[] = [];

function padded(weights: Float32Array, columns: number, wanted: number): KernelNumbers {
  const rows = weights.length / columns,
    out = new Float32Array(rows * wanted);
  for (let row = 0; row < rows; row++) out.set(weights.subarray(row * columns, (row + 1) * columns), row * wanted);
  return KernelNumbers.of(out);
}

function place(net: Layers): Placed {
  let found = placed.get(net);
  if (!found) {
    const [inputs, hidden] = [net.inputs, net.hidden].map((count) => Math.ceil(count / 4) * 4);
    found = {
      inputs,
      hidden,
      hiddenWeights: padded(net.hiddenWeights, net.inputs, inputs),
      hiddenBias: KernelNumbers.of(net.hiddenBias),
      outputWeights: padded(net.outputWeights, net.hidden, hidden),
      outputBias: KernelNumbers.of(net.outputBias),
    };
    placed.set(net, found);
    scratch = [inputs, hidden, net.outputs].map((length, k) => (scratch[k]?.length >= length ? scratch[k] : new KernelNumbers(length)));
  }
  return found;
}

/** Output logits of one network for scaled inputs. */
export function runLayers(net: Layers, scaled: Float32Array, into: Float32Array): void {
  const { inputs, hidden, ...numbers } = place(net),
    [x, h, out] = scratch,
    { layer } = kernels();
  // What a wider network left beyond the end must not meet the padding.
  x.view.fill(0, scaled.length, inputs);
  x.view.set(scaled);
  h.view.fill(0, net.hidden, hidden);
  layer(numbers.hiddenWeights.at, numbers.hiddenBias.at, x.at, h.at, inputs, net.hidden, 0);
  layer(numbers.outputWeights.at, numbers.outputBias.at, h.at, out.at, hidden, net.outputs, -Infinity);
  into.set(out.view.subarray(0, net.outputs));
}

/** Mean logits of all networks, by the temperature. */
export function ensembleLogits(ensemble: Ensemble, inputs: ArrayLike<number>): Float32Array {
  const scaled = scaleInputs(ensemble, inputs),
    outputs = ensemble.networks[0].outputs,
    one = new Float32Array(outputs),
    sum = new Float32Array(outputs);
  for (const net of ensemble.networks) {
    runLayers(net, scaled, one);
    for (let o = 0; o < outputs; o++) sum[o] += one[o] / ensemble.networks.length / ensemble.temperature;
  }
  return sum;
}

/** A candidate that the first network puts so far behind the best one is out of the question (0.03 % of its chance). */
const hopeless = 8;

/**
 * Scores of many candidates by an ensemble with one output, as logits: all are put to the first network, and those that it does not rule
 * out to the others too. @param rowOf fills the inputs of a candidate into the row it is given
 */
export function rankingLogits(ensemble: Ensemble, count: number, rowOf: (candidate: number, row: Float32Array) => void): Float32Array {
  const { networks, temperature, mean } = ensemble,
    one = new Float32Array(1),
    row = new Float32Array(mean.length),
    logits = new Float32Array(count),
    scaled: Float32Array[] = [];
  let best = -Infinity;
  for (let candidate = 0; candidate < count; candidate++) {
    rowOf(candidate, row);
    scaled.push(scaleInputs(ensemble, row));
    runLayers(networks[0], scaled[candidate], one);
    logits[candidate] = one[0] / temperature;
    best = Math.max(best, logits[candidate]);
  }
  for (let candidate = 0; candidate < count; candidate++) {
    if (logits[candidate] < best - hopeless) continue;
    let sum = logits[candidate];
    for (let k = 1; k < networks.length; k++) {
      runLayers(networks[k], scaled[candidate], one);
      sum += one[0] / temperature;
    }
    logits[candidate] = sum / networks.length;
  }
  return logits;
}

/** Logits as probabilities that sum to 1, shifted by the largest so that none overflows. @example softmax([0, 0]) // => [0.5, 0.5] */
export function softmax(logits: ArrayLike<number>): Float32Array {
  let most = -Infinity;
  for (let k = 0; k < logits.length; k++) most = Math.max(most, logits[k]);
  const out = Float32Array.from(logits, (value) => Math.exp(value - most));
  const sum = out.reduce((a, b) => a + b, 0);
  return out.map((value) => value / sum);
}

/** Probabilities of the labels. */
export const classify = (ensemble: Ensemble, inputs: ArrayLike<number>): Float32Array => softmax(ensembleLogits(ensemble, inputs));
