/** A sounding or scheduled buffer with its own fades. */
export interface Voice {
  readonly id: string;
  readonly source: AudioBufferSourceNode;
  readonly gain: GainNode;
  readonly startFrame: number;
  readonly gainRatio: number;
  /** Frame at which it has faded out; Infinity while it goes on. */
  endFrame: number;
}

/** Clip edges are faded straight; two sounds that take over from each other by equal power. */
export type FadeShape = 'straight' | 'equal-power';

export interface VoicePlan {
  readonly id: string;
  readonly buffer: AudioBuffer;
  readonly into: AudioNode;
  readonly startFrame: number;
  readonly endFrame: number;
  readonly offsetFrame: number;
  readonly cyclic: boolean;
  readonly fadeInFrames: number;
  readonly fadeOutFrames: number;
  readonly gainRatio: number;
  readonly shape?: FadeShape;
}

const curvePoints = 33;
/** A quarter of a sine, up or down, times `gainRatio`. */
const quarter = (gainRatio: number, up: boolean): Float32Array =>
  Float32Array.from(
    { length: curvePoints },
    (_, k) => gainRatio * Math.sin(((up ? k : curvePoints - 1 - k) / (curvePoints - 1)) * (Math.PI / 2)),
  );

function fade(parameter: AudioParam, gainRatio: number, up: boolean, frame: number, frames: number, rate: number, shape: FadeShape): void {
  if (shape === 'equal-power') {
    parameter.setValueCurveAtTime(quarter(gainRatio, up), frame / rate, frames / rate);
    return;
  }
  parameter.setValueAtTime(up ? 0 : gainRatio, frame / rate);
  parameter.linearRampToValueAtTime(up ? gainRatio : 0, (frame + frames) / rate);
}

/**
 * Schedules a buffer on whole frames: a `when` between frames would be interpolated and lose its highs. `endFrame` is where
 * the fade-out begins.
 */
export function startVoice(context: BaseAudioContext, plan: VoicePlan): Voice {
  const rate = context.sampleRate,
    gain = new GainNode(context, { gain: plan.fadeInFrames > 0 ? 0 : plan.gainRatio });
  const source = new AudioBufferSourceNode(context, { buffer: plan.buffer, loop: plan.cyclic });
  source.connect(gain).connect(plan.into);
  if (plan.fadeInFrames > 0) fade(gain.gain, plan.gainRatio, true, plan.startFrame, plan.fadeInFrames, rate, plan.shape ?? 'straight');
  source.start(plan.startFrame / rate, (plan.offsetFrame % plan.buffer.length) / rate);
  const voice: Voice = { id: plan.id, source, gain, startFrame: plan.startFrame, gainRatio: plan.gainRatio, endFrame: Infinity };
  if (Number.isFinite(plan.endFrame)) endVoice(voice, plan.endFrame, plan.fadeOutFrames, rate);
  source.onended = () => {
    source.disconnect();
    gain.disconnect();
  };
  return voice;
}

/** Fades a voice out from `frame` on. */
export function endVoice(voice: Voice, frame: number, fadeFrames: number, rate: number, shape: FadeShape = 'straight'): void {
  const from = Math.max(frame, voice.startFrame);
  fade(voice.gain.gain, voice.gainRatio, false, from, fadeFrames, rate, shape);
  voice.source.stop((from + fadeFrames) / rate);
  voice.endFrame = from + fadeFrames;
}

/** Takes a voice out soon, whatever fades were planned for it. */
export function cutVoice(voice: Voice, frame: number, fadeFrames: number, rate: number): void {
  if (voice.endFrame <= frame + fadeFrames) return;
  const time = frame / rate;
  // A voice that has not begun is silent until then; one that sounds is faded from where it is.
  voice.gain.gain.cancelAndHoldAtTime(time);
  voice.gain.gain.linearRampToValueAtTime(0, (frame + fadeFrames) / rate);
  try {
    voice.source.stop((frame + fadeFrames) / rate);
  } catch {
    /* never started */
  }
  voice.endFrame = frame + fadeFrames;
}
