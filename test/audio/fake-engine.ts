import type { FitMessage, FitReply, MeterMessage } from '~workers/protocol';
import { FakeGain, FakePanner } from './fake-audio';

/** The audio device as the engine sees it: a clock that the test moves, and a state that the browser may change. */
export class FakeGraph {
  static current: FakeGraph;
  readonly context = {
    currentTime: 0,
    sampleRate: 44100,
    state: 'running',
    onstatechange: null as (() => void) | null,
    resume: jest.fn(() => Promise.resolve()),
  };
  readonly master = new FakeGain();
  readonly project = new FakeGain();
  readonly candidate = new FakeGain();
  readonly click = new FakeGain();
  readonly side = new FakePanner();
  readonly silenced: (string | null)[] = [];
  projectHeard = true;
  constructor(readonly onMeter: (message: MeterMessage) => void) {
    FakeGraph.current = this;
  }
  static open(_rateHz: number, onMeter: (message: MeterMessage) => void) {
    return Promise.resolve(new FakeGraph(onMeter));
  }
  trackInput = () => this.project;
  applyTracks = (_tracks: unknown, _gainDb: number, silent: string | null) => void this.silenced.push(silent);
  applyProjectHeard = (heard: boolean) => void (this.projectHeard = heard);
  applyPreview = () => {};
  readSpectra = () => {};
}
/** A worker that fits when it is let: each sound is known by the number its samples hold. */
export class FakeWorker {
  static all: FakeWorker[] = [];
  static held = false;
  onmessage: ((event: { data: FitReply }) => void) | null = null;
  private readonly got: FitMessage[] = [];
  constructor() {
    FakeWorker.all.push(this);
  }
  postMessage(message: FitMessage): void {
    this.got.push(message);
    if (!FakeWorker.held) queueMicrotask(() => this.answer());
  }
  answer(): void {
    const message = this.got.shift();
    if (!message) return;
    const channel = new Float32Array(message.request.targetFrames).fill(Number(message.request.soundSha));
    this.onmessage?.({ data: { id: message.id, ok: true, channels: [channel, channel], loudnessLufs: -14 } });
  }
}
export class NamedBuffer {
  readonly length: number;
  private plane: Float32Array;
  constructor({ length }: { length: number }) {
    this.length = length;
    this.plane = new Float32Array(length);
  }
  copyToChannel(plane: Float32Array): void {
    this.plane = plane;
  }
  getChannelData(): Float32Array {
    return this.plane;
  }
  get name(): string {
    return this.plane[0] > 0 ? `loop ${this.plane[0]} of ${this.length}` : 'click';
  }
}
