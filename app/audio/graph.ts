import type { Track } from '~core/arrangement/tree';
import { dbToRatio, ratioToDb } from '~core/units/level';
import type { MeterMessage } from '~workers/protocol';
import meterUrl from '../../workers/meter.worklet.ts?worker&url';
import type { AuditionSettings } from './store';

/** Below it *low cut* takes away 24 dB an octave. */
const lowCutHz = 180;

interface TrackNodes {
  readonly gain: GainNode;
  readonly pan: StereoPannerNode;
}

/**
 * The nodes through which everything sounds: tracks → project → master → meter and ceiling → out, the candidate through its low cut and its switch to
 * mono, and clicks and reference tones beside them.
 */
export class AudioGraph {
  readonly master: GainNode;
  readonly candidate: GainNode;
  readonly click: GainNode;
  readonly project: GainNode;
  /** The candidate as it is, and without its lows: one of them is heard. A filter that does nothing would still turn its phases. */
  private readonly whole: GainNode;
  private readonly thinned: GainNode;
  private readonly narrow: GainNode;
  /** Where the candidate is heard from; in the middle unless it is compared with clicks. */
  readonly side: StereoPannerNode;
  private readonly looks: { readonly project: AnalyserNode; readonly candidate: AnalyserNode };
  private readonly tracks = new Map<string, TrackNodes>();

  private constructor(
    readonly context: AudioContext,
    meter: AudioWorkletNode,
  ) {
    this.master = new GainNode(context);
    this.project = new GainNode(context);
    this.candidate = new GainNode(context);
    this.click = new GainNode(context, { gain: 0.5 });
    // Two of second order make one of fourth (Butterworth: 0.541 and 1.307).
    const cuts = [0.541, 1.307].map((q) => new BiquadFilterNode(context, { type: 'highpass', frequency: lowCutHz, Q: ratioToDb(q) }));
    this.whole = new GainNode(context);
    this.thinned = new GainNode(context, { gain: 0 });
    // A gain of one channel mixes down what comes in; of two, it leaves it.
    this.narrow = new GainNode(context, { channelCount: 2, channelCountMode: 'explicit' });
    this.side = new StereoPannerNode(context);
    this.candidate.connect(this.whole).connect(this.narrow);
    this.candidate.connect(cuts[0]).connect(cuts[1]).connect(this.thinned).connect(this.narrow);
    this.narrow.connect(this.side).connect(this.master);
    const look = () => new AnalyserNode(context, { fftSize: 2048, smoothingTimeConstant: 0.85 });
    this.looks = { project: look(), candidate: look() };
    this.project.connect(this.looks.project);
    this.side.connect(this.looks.candidate);
    this.project.connect(this.master);
    this.click.connect(this.master);
    this.master.connect(meter).connect(context.destination);
  }

  static async open(rateHz: number, onMeter: (message: MeterMessage) => void): Promise<AudioGraph> {
    const context = new AudioContext({ sampleRate: rateHz, latencyHint: 'interactive' });
    await context.audioWorklet.addModule(meterUrl);
    const meter = new AudioWorkletNode(context, 'garnetfinch-meter', { outputChannelCount: [2] });
    meter.port.onmessage = ({ data }: MessageEvent<MeterMessage>) => onMeter(data);
    return new AudioGraph(context, meter);
  }

  /** Levels by frequency in dB, 1,024 values each up to half the rate. */
  readSpectra(project: Float32Array<ArrayBuffer>, candidate: Float32Array<ArrayBuffer>): void {
    this.looks.project.getFloatFrequencyData(project);
    this.looks.candidate.getFloatFrequencyData(candidate);
  }

  trackInput(trackId: string): AudioNode | null {
    return this.tracks.get(trackId)?.gain ?? null;
  }

  /** Brings a parameter where it shall be in a few milliseconds: a step would be heard. */
  private set(parameter: AudioParam, value: number): void {
    parameter.setTargetAtTime(value, this.context.currentTime, 0.005);
  }

  /** Levels of the project; `silentTrackId` gives its place to the candidate. */
  applyTracks(tracks: readonly Track[], masterGainDb: number, silentTrackId: string | null): void {
    const { context } = this;
    this.set(this.master.gain, dbToRatio(masterGainDb));
    for (const track of tracks) {
      let nodes = this.tracks.get(track.id);
      const gainRatio = track.id === silentTrackId ? 0 : dbToRatio(track.gainDb);
      if (!nodes) {
        nodes = { gain: new GainNode(context, { gain: gainRatio }), pan: new StereoPannerNode(context, { pan: track.pan }) };
        nodes.gain.connect(nodes.pan).connect(this.project);
        this.tracks.set(track.id, nodes);
      }
      this.set(nodes.gain.gain, gainRatio);
      this.set(nodes.pan.pan, track.pan);
    }
    for (const [id, nodes] of this.tracks)
      if (!tracks.some((track) => track.id === id)) {
        // What still sounds in it fades before it goes.
        this.set(nodes.gain.gain, 0);
        setTimeout(() => nodes.pan.disconnect(), 100);
        this.tracks.delete(id);
      }
  }

  /** Whether the project is heard beside the candidate. */
  applyProjectHeard(heard: boolean): void {
    this.set(this.project.gain, heard ? 1 : 0);
  }

  applyPreview({ lowCut, mono }: Pick<AuditionSettings, 'lowCut' | 'mono'>): void {
    this.set(this.whole.gain, lowCut ? 0 : 1);
    this.set(this.thinned.gain, lowCut ? 1 : 0);
    this.narrow.channelCount = mono ? 1 : 2;
  }
}
