import { envelopeGain, type Envelope } from '~core/arrangement/envelope';
import { cutFadeFrames, soonFrames } from './pace';

/** By so much the audio thread may hear of a fade too late: a sound that is cut ends only when it is silent for sure. */
const lateFrames = 4096;

/** A sounding or scheduled buffer with its own fades. */
export interface Voice {
  readonly id: string;
  readonly context: BaseAudioContext;
  readonly source: AudioBufferSourceNode;
  readonly gain: GainNode;
  /** Of its clip, where that comes up or goes down. */
  readonly shape: GainNode | null;
  readonly startFrame: number;
  readonly fadeInFrames: number;
  readonly gainRatio: number;
  /** Frame at which it has faded out; Infinity while it goes on. */
  endFrame: number;
}

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
  /** In frames of the device. */
  readonly envelope?: Envelope;
}

/** Points of a fade's curve; between them it is straight, and less than −80 dB beside what is meant. */
const curvePoints = 65;

/** What is left of an envelope's fades from a frame on, as a gain. */
function shapeNode(context: BaseAudioContext, envelope: Envelope, fromFrame: number): GainNode {
  const rate = context.sampleRate,
    { startFrame, endFrame, fadeInFrames, fadeOutFrames } = envelope,
    node = new GainNode(context, { gain: envelopeGain(envelope, fromFrame) }),
    riseEnd = startFrame + fadeInFrames,
    fallStart = endFrame - fadeOutFrames,
    // Where both overlap, one curve is drawn over the two.
    stretches =
      fadeInFrames > 0 && fadeOutFrames > 0 && fallStart < riseEnd
        ? [[startFrame, endFrame]]
        : [
            [startFrame, riseEnd],
            [fallStart, endFrame],
          ];
  for (const [begins, ends] of stretches) {
    const from = Math.max(begins, fromFrame);
    if (ends - from < 2) continue;
    const curve = Float32Array.from({ length: curvePoints }, (_, k) =>
      envelopeGain(envelope, from + ((ends - from) * k) / (curvePoints - 1)),
    );
    node.gain.setValueCurveAtTime(curve, from / rate, (ends - from) / rate);
  }
  return node;
}

function fade(parameter: AudioParam, gainRatio: number, up: boolean, frame: number, frames: number, rate: number): void {
  parameter.setValueAtTime(up ? 0 : gainRatio, frame / rate);
  parameter.linearRampToValueAtTime(up ? gainRatio : 0, (frame + frames) / rate);
}

/**
 * Schedules a buffer on whole frames: a `when` between frames would be interpolated and lose its highs. `endFrame` is where
 * the fade-out begins.
 */
export function startVoice(context: BaseAudioContext, wanted: VoicePlan): Voice {
  const rate = context.sampleRate,
    plan = startable(wanted, Math.round(context.currentTime * rate)),
    gain = new GainNode(context, { gain: plan.fadeInFrames > 0 ? 0 : plan.gainRatio });
  const source = new AudioBufferSourceNode(context, { buffer: plan.buffer, loop: plan.cyclic });
  const shape = plan.envelope ? shapeNode(context, plan.envelope, plan.startFrame) : null;
  source.connect(gain);
  if (shape) gain.connect(shape).connect(plan.into);
  else gain.connect(plan.into);
  if (plan.fadeInFrames > 0) fade(gain.gain, plan.gainRatio, true, plan.startFrame, plan.fadeInFrames, rate);
  source.start(plan.startFrame / rate, (plan.offsetFrame % plan.buffer.length) / rate);
  const { id, startFrame, fadeInFrames, gainRatio } = plan,
    voice: Voice = { id, context, source, gain, shape, startFrame, fadeInFrames, gainRatio, endFrame: Infinity };
  if (Number.isFinite(plan.endFrame)) {
    fade(gain.gain, plan.gainRatio, false, plan.endFrame, plan.fadeOutFrames, rate);
    source.stop((plan.endFrame + plan.fadeOutFrames) / rate);
    voice.endFrame = plan.endFrame + plan.fadeOutFrames;
  }
  source.onended = () => {
    source.disconnect();
    gain.disconnect();
    shape?.disconnect();
  };
  return voice;
}

/** What would begin in the past, because the page stood still just now, begins softly a moment ahead, at the place it would have reached. */
function startable(plan: VoicePlan, nowFrame: number): VoicePlan {
  if (!(plan.startFrame < nowFrame)) return plan;
  const late = nowFrame + soonFrames - plan.startFrame;
  return {
    ...plan,
    startFrame: plan.startFrame + late,
    offsetFrame: plan.offsetFrame + late,
    fadeInFrames: Math.max(cutFadeFrames, plan.fadeInFrames),
  };
}

/** Takes a voice out of the graph at once: nobody hears it any more. */
export function silenceVoice({ source, gain }: Voice): void {
  source.stop();
  source.disconnect();
  gain.disconnect();
}

/** Takes a voice out soon, whatever fades were planned for it. */
export function cutVoice(voice: Voice, frame: number, fadeFrames: number, rate: number): void {
  // The page may have stood still since `frame` was chosen: what sounds by now is faded out all the same.
  const from = Math.max(frame, Math.round(voice.context.currentTime * rate) + soonFrames);
  if (voice.endFrame <= from + fadeFrames) return;
  if (voice.startFrame >= from) {
    silenceVoice(voice);
  } else {
    const { gain } = voice.gain,
      openness = Math.min(1, (from - voice.startFrame) / Math.max(1, voice.fadeInFrames));
    // Holding "where it is" is left to nobody: what the parameter does before the next planned step differs between browsers.
    gain.cancelScheduledValues(from / rate);
    if (openness < 1) gain.linearRampToValueAtTime(voice.gainRatio * openness, from / rate);
    // A curve has its whole length even if the audio thread hears of it too late, where the end of a ramp would be a step by then.
    gain.setValueCurveAtTime([voice.gainRatio * openness, 0], from / rate, fadeFrames / rate);
    voice.source.stop((from + fadeFrames + lateFrames) / rate);
  }
  voice.endFrame = from + fadeFrames;
}
