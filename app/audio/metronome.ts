import { projectRateHz } from '~core/units/time';
import { beatFrames, frameOfRunningBeat, runningBeatAt, type Transport } from './transport';

/** A click: 30 ms of a tone, an octave higher on the first beat of a bar. */
function clickBuffer(hz: number): AudioBuffer {
  const length = Math.round(projectRateHz * 0.03),
    buffer = new AudioBuffer({ numberOfChannels: 1, length, sampleRate: projectRateHz }),
    plane = buffer.getChannelData(0);
  for (let i = 0; i < length; i++)
    plane[i] = 0.6 * Math.sin((2 * Math.PI * hz * i) / projectRateHz) * Math.exp(-i / (0.006 * projectRateHz));
  return buffer;
}

/** Clicks on the beats of the transport, handed to the audio thread ahead of time. */
export class Metronome {
  private readonly sounds = { bar: clickBuffer(1760), beat: clickBuffer(880) };
  private nextBeat: number | null = null;
  private pending: { readonly source: AudioBufferSourceNode; readonly frame: number }[] = [];

  constructor(
    private readonly context: AudioContext,
    private readonly into: AudioNode,
  ) {}

  /** Everything that has not sounded yet is taken back: the grid has changed, or it is off. A click that has begun rings out. */
  reset(nowFrame: number): void {
    for (const { source, frame } of this.pending) if (frame > nowFrame) source.disconnect();
    this.pending = this.pending.filter(({ frame }) => frame <= nowFrame);
    this.nextBeat = null;
  }

  /** Schedules the beats from `nowFrame` to `horizonFrame`; from `fromBeat` on, which may lie before the music: a count-in. */
  scheduleAhead(transport: Transport, nowFrame: number, horizonFrame: number, fromBeat: number, untilBeat: number): void {
    this.nextBeat ??= Math.max(fromBeat, Math.ceil(runningBeatAt(transport, nowFrame + beatFrames(transport) * 0.001) - 1e-6));
    for (; this.nextBeat < untilBeat; this.nextBeat++) {
      const frame = Math.round(frameOfRunningBeat(transport, this.nextBeat));
      if (frame >= horizonFrame) break;
      if (frame < nowFrame) continue;
      const first = ((this.nextBeat % transport.barBeats) + transport.barBeats) % transport.barBeats === 0;
      this.click(first, frame);
    }
  }

  private click(first: boolean, frame: number): void {
    const source = new AudioBufferSourceNode(this.context, { buffer: first ? this.sounds.bar : this.sounds.beat });
    source.connect(this.into);
    source.start(frame / projectRateHz);
    this.pending.push({ source, frame });
    source.onended = () => {
      source.disconnect();
      this.pending = this.pending.filter((each) => each.source !== source);
    };
  }
}
