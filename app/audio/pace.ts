import { projectRateHz } from '~core/units/time';

/** How far ahead events are handed to the audio thread. A busy page may stall this long without a gap. */
export const lookAheadFrames = Math.round(projectRateHz * 0.9),
  /** The soonest a new thing can start: one message of the clock plus the way to the audio thread. */
  leadFrames = Math.round(projectRateHz * 0.06),
  /** The soonest a candidate starts that waits for no line. */
  nowLeadFrames = Math.round(projectRateHz * 0.03),
  /** The soonest a sound is faded out: sooner, a busy audio thread would hear of it too late and cut it off. */
  cutLeadFrames = Math.round(projectRateHz * 0.02),
  cutFadeFrames = 256,
  /** The soonest that anything can be planned for: a block of the audio thread. */
  soonFrames = 128,
  /** Two candidates cross over in so much before the line, so that what begins on it begins whole. */
  crossFrames = 128;
