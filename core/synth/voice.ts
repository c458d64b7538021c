/** One note for a voice. All voices are mono; placing and width come later. */
export interface VoiceNote {
  readonly hz: number;
  /** 0–1. */
  readonly velocity: number;
  /** How long the key is held. */
  readonly heldSeconds: number;
  readonly rateHz: number;
  /** 0–1: dark to bright, by which timbres of one instrument differ. */
  readonly tone: number;
  readonly random: () => number;
}

/** A voice renders one note, with its own decay behind the held time. Peak about `velocity`. */
export type Voice = (note: VoiceNote) => Float32Array;

/** Attack, decay to `sustain`, release: an envelope at a time in seconds. Linear attack, exponential rest. */
export function envelope(time: number, held: number, attack: number, decay: number, sustain: number, release: number): number {
  const at = time < held ? time : held;
  const level = at < attack ? at / attack : sustain + (1 - sustain) * Math.exp(-(at - attack) / decay);
  return time < held ? level : level * Math.exp(-(time - held) / release);
}

/** Adds gain · sin(2π(hz·t + phase)) · e^(−t/decay) by rotating a vector: four products a frame instead of a sine. */
export function addPartial(out: Float32Array, hz: number, gain: number, phase: number, decaySeconds: number, rateHz: number): void {
  const turn = (tau * hz) / rateHz,
    shrink = Math.exp(-1 / (decaySeconds * rateHz));
  const c = Math.cos(turn) * shrink,
    s = Math.sin(turn) * shrink;
  let re = gain * Math.cos(tau * phase),
    im = gain * Math.sin(tau * phase);
  for (let i = 0; i < out.length; i++) {
    out[i] += im;
    const next = re * c - im * s;
    im = re * s + im * c;
    re = next;
  }
}

/** Band-limited saw by PolyBLEP (Välimäki & Huovilainen 2007). `phase` 0–1, `step` = hz / rate. */
export function saw(phase: number, step: number): number {
  let value = 2 * phase - 1;
  if (phase < step) {
    const t = phase / step;
    value -= t + t - t * t - 1;
  } else if (phase > 1 - step) {
    const t = (phase - 1) / step;
    value -= t * t + t + t + 1;
  }
  return value;
}

/** A one-pole low pass with a cutoff that may move: `y += g·(x − y)`. */
export function onePole(cutoffHz: number, rateHz: number): number {
  return 1 - Math.exp((-2 * Math.PI * Math.min(cutoffHz, rateHz * 0.45)) / rateHz);
}

/** State-variable filter, stable under modulation (Andrew Simper 2013, trapezoidal form). */
export class StateVariable {
  private first = 0;
  private second = 0;
  low = 0;
  band = 0;
  high = 0;
  private cutoffHz = -1;
  private k = 0;
  private a1 = 0;
  private a2 = 0;
  private a3 = 0;
  constructor(private readonly rateHz: number) {}

  /** @param resonance 0 (none) – 0.95 */
  step(input: number, cutoffHz: number, resonance: number): number {
    const k = 2 - 2 * resonance;
    // A tangent for each sample is most of the cost; a move of half a percent is not heard.
    if (Math.abs(cutoffHz - this.cutoffHz) > this.cutoffHz * 0.005 || k !== this.k) {
      const g = Math.tan((Math.PI * Math.min(cutoffHz, this.rateHz * 0.45)) / this.rateHz);
      this.cutoffHz = cutoffHz;
      this.k = k;
      this.a1 = 1 / (1 + g * (g + k));
      this.a2 = g * this.a1;
      this.a3 = g * this.a2;
    }
    const { a1, a2, a3 } = this;
    const v3 = input - this.second,
      v1 = a1 * this.first + a2 * v3,
      v2 = this.second + a2 * this.first + a3 * v3;
    this.first = 2 * v1 - this.first;
    this.second = 2 * v2 - this.second;
    this.low = v2;
    this.band = v1;
    this.high = input - k * v1 - v2;
    return v2;
  }
}

export const tau = 2 * Math.PI;

/** Where in its turn a phase is, 0–1, of a phase in turns ≥ 0: what is left of it by 1, which a division finds ten times as slowly. */
export const withinTurn = (turns: number): number => turns - Math.floor(turns);

/** White noise in −1…1. */
export function noise(note: VoiceNote, lengthFrames: number): Float32Array {
  const out = new Float32Array(lengthFrames);
  for (let i = 0; i < lengthFrames; i++) out[i] = note.random() * 2 - 1;
  return out;
}

/** A sound under a gain for each frame. */
export function shaped(sound: Float64Array, gainAt: (value: number, i: number) => number): Float32Array {
  const out = new Float32Array(sound.length);
  for (let i = 0; i < out.length; i++) out[i] = gainAt(sound[i], i);
  return out;
}
