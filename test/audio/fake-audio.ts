/** As much of the Web Audio API as the players use, in frames, with parameters that can be asked for their value at any frame. */

const rate = 44100;
const frames = (seconds: number) => Math.round(seconds * rate);

interface Value {
  readonly kind: 'set' | 'ramp';
  readonly at: number;
  readonly value: number;
}
interface Curve {
  readonly kind: 'curve';
  readonly at: number;
  readonly length: number;
  readonly curve: ArrayLike<number>;
}
type Step = Value | Curve;

export class FakeParam {
  private steps: Step[] = [];
  constructor(public value = 1) {}

  setValueAtTime(value: number, time: number): void {
    this.add({ kind: 'set', at: frames(time), value });
  }
  setTargetAtTime(value: number, time: number): void {
    this.setValueAtTime(value, time);
  }
  linearRampToValueAtTime(value: number, time: number): void {
    this.add({ kind: 'ramp', at: frames(time), value });
  }
  setValueCurveAtTime(curve: ArrayLike<number>, time: number, seconds: number): void {
    const at = frames(time),
      length = frames(seconds);
    // As the standard has it: nothing may lie within a curve.
    for (const step of this.steps)
      if (step.kind === 'curve' ? step.at < at + length && at < step.at + step.length : step.at > at && step.at < at + length)
        throw new Error('NotSupportedError: a curve overlaps another event');
    this.add({ kind: 'curve', at, length, curve });
  }
  cancelScheduledValues(time: number): void {
    const at = frames(time);
    this.steps = this.steps.filter((step) => step.at < at && !(step.kind === 'curve' && step.at + step.length > at));
  }

  private add(step: Step): void {
    for (const each of this.steps)
      if (each.kind === 'curve' && step.at > each.at && step.at < each.at + each.length)
        throw new Error('NotSupportedError: an event within a curve');
    this.steps.push(step);
    this.steps.sort((a, b) => a.at - b.at);
  }

  valueAt(frame: number): number {
    let value = this.value,
      at = -Infinity;
    for (const step of this.steps) {
      if (step.kind === 'ramp') {
        if (frame < step.at) return Number.isFinite(at) ? value + ((step.value - value) * (frame - at)) / (step.at - at) : value;
        value = step.value;
      } else if (frame < step.at) return value;
      else if (step.kind === 'set') value = step.value;
      else if (step.kind === 'curve') {
        const place = ((frame - step.at) / step.length) * (step.curve.length - 1),
          low = Math.min(step.curve.length - 1, Math.floor(place)),
          high = Math.min(step.curve.length - 1, low + 1);
        if (frame < step.at + step.length) return step.curve[low] + (step.curve[high] - step.curve[low]) * (place - low);
        value = step.curve[step.curve.length - 1];
      }
      at = step.kind === 'curve' ? step.at + step.length : step.at;
    }
    return value;
  }
}

class FakeNode {
  into: FakeNode | null = null;
  connected = true;
  connect<T extends FakeNode>(to: T): T {
    this.into = to;
    return to;
  }
  disconnect(): void {
    this.connected = false;
  }
}

export class FakeGain extends FakeNode {
  readonly gain: FakeParam;
  constructor(_context?: unknown, { gain = 1 }: { gain?: number } = {}) {
    super();
    this.gain = new FakeParam(gain);
  }
}

export class FakePanner extends FakeNode {
  readonly pan: FakeParam;
  constructor(_context?: unknown, { pan = 0 }: { pan?: number } = {}) {
    super();
    this.pan = new FakeParam(pan);
  }
}

export class FakeOscillator extends FakeNode {
  startFrame = Infinity;
  stopFrame = Infinity;
  onended: (() => void) | null = null;
  readonly frequencyHz: number;
  constructor(_context: unknown, { frequency }: { frequency: number }) {
    super();
    this.frequencyHz = frequency;
    oscillators.push(this);
  }
  start(when: number): void {
    this.startFrame = frames(when);
  }
  stop(when: number): void {
    this.stopFrame = frames(when);
  }
  /** The level that its gain has at a frame while it runs. */
  levelAt(frame: number): number {
    return frame >= this.startFrame && frame < this.stopFrame && this.into instanceof FakeGain ? this.into.gain.valueAt(frame) : 0;
  }
}

export class FakeSource extends FakeNode {
  startFrame = Infinity;
  offsetFrame = 0;
  stopFrame = Infinity;
  onended: (() => void) | null = null;
  readonly name: string;
  constructor(_context: unknown, { buffer }: { buffer: { readonly name?: string } }) {
    super();
    this.name = buffer.name ?? '';
    sources.push(this);
  }
  start(when: number, offset: number): void {
    this.startFrame = frames(when);
    this.offsetFrame = frames(offset);
  }
  stop(when = 0): void {
    this.stopFrame = frames(when);
  }

  /** By how much it is heard at a frame: the product of every gain on its way out. */
  heardAt(frame: number): number {
    if (frame < this.startFrame || frame >= this.stopFrame) return 0;
    let heard = this.connected ? 1 : 0;
    for (let node = this.into; node; node = node.into) {
      if (!node.connected) return 0;
      if (node instanceof FakeGain) heard *= node.gain.valueAt(frame);
    }
    return heard;
  }
}

/** Every source and every oscillator since the last `forgetSources`. */
export let sources: FakeSource[] = [];
export let oscillators: FakeOscillator[] = [];
export function forgetSources(): void {
  sources = [];
  oscillators = [];
}

/** Puts the fakes where the players look for the real ones. */
export function installFakeAudio(): void {
  Object.assign(globalThis, {
    GainNode: FakeGain,
    AudioBufferSourceNode: FakeSource,
    OscillatorNode: FakeOscillator,
    StereoPannerNode: FakePanner,
  });
}

/** By how much sounds of one name are heard together at a frame. */
export const heard = (name: string, frame: number): number =>
  sources.filter((source) => source.name === name).reduce((sum, source) => sum + source.heardAt(frame), 0);

/** The largest change from one frame to the next of what is heard of any source, between two frames. */
export function largestStep(from: number, to: number): number {
  let largest = 0;
  for (const source of sources)
    for (let frame = from + 1; frame <= to; frame++) {
      // A sound's own start is its own business: it begins with its attack.
      if (frame === source.startFrame) continue;
      largest = Math.max(largest, Math.abs(source.heardAt(frame) - source.heardAt(frame - 1)));
    }
  return largest;
}
