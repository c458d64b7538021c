import { framesPerBeat, projectRateHz } from '~core/units/time';

/** Clicks of one tempo against a loop that is heard as recorded: the loop on the left, the clicks on the right. */
export class ClickTrack {
  private source: AudioBufferSourceNode | null = null;
  private readonly out: StereoPannerNode;

  constructor(
    private readonly context: AudioContext,
    into: AudioNode,
  ) {
    this.out = new StereoPannerNode(context, { pan: 0.8 });
    this.out.connect(into);
  }

  /** Four beats, the first one higher, round and round from `startFrame` on. */
  start(tempoBpm: number, startFrame: number): void {
    this.stop();
    const beat = framesPerBeat(tempoBpm, projectRateHz),
      buffer = new AudioBuffer({ numberOfChannels: 1, length: Math.round(4 * beat), sampleRate: projectRateHz }),
      plane = buffer.getChannelData(0);
    for (let k = 0; k < 4; k++) {
      const at = Math.round(k * beat),
        hz = k === 0 ? 1760 : 1174;
      for (let i = 0; i < 1100 && at + i < plane.length; i++)
        plane[at + i] = 0.7 * Math.sin((2 * Math.PI * hz * i) / projectRateHz) * Math.exp(-i / 220);
    }
    this.source = new AudioBufferSourceNode(this.context, { buffer, loop: true });
    this.source.connect(this.out);
    this.source.start(startFrame / projectRateHz);
  }

  stop(): void {
    this.source?.stop();
    this.source?.disconnect();
    this.source = null;
  }
}
