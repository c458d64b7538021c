import { realFft, type RealFft } from '../dsp/real-fft';
import { drawThrough, partialsOfVoice } from './harmonics';

/** Periods between which a voice's pitch is looked for, seconds: 70 to 900 Hz. */
const shortestPeriodSeconds = 1 / 900,
  longestPeriodSeconds = 1 / 70,
  rounds = 6,
  /** Peaks this much (nepers) above the envelope still are let be. */
  closeEnough = 0.1,
  /** The cepstrum's peak at the pitch (nepers): below the one it is nobody's, above the other surely a single voice's. */
  leastPeak = 0.15,
  surePeak = 0.3,
  /** 90 dB. */
  rangeNepers = 10.4;

/**
 * The envelope of a spectrum that goes over its partials' tops and not between them: a cepstrum cut off below the pitch, made again from the
 * larger of spectrum and envelope until the tops are on it (Imai & Abe 1979; Röbel & Rodet 2005, "Efficient spectral envelope
 * estimation and its application to pitch shifting and envelope preservation"); and where one voice is surely heard, drawn through its partials.
 */
export class EnvelopeFinder {
  private readonly fft: RealFft;
  private readonly levels: Float32Array;
  private readonly raised: Float32Array;
  /** Of the frame looked at last: the pitch, and how surely it is that of one voice, 0 to 1. */
  private periodFrames = 1;
  private voiced = 0;
  /** Natural logarithm of the envelope's amplitude, one value a bin. */
  readonly envelope: Float32Array;

  constructor(
    readonly size: number,
    private readonly sampleRateHz: number,
  ) {
    this.fft = realFft(size);
    const bins = size / 2 + 1;
    this.levels = new Float32Array(bins);
    this.raised = new Float32Array(bins);
    this.envelope = new Float32Array(bins);
  }

  /** Of spectra `[dc, nyquist, re 1, im 1 …]`, one a channel, together. Silence gives a flat one. */
  find(spectra: readonly Float32Array[]): Float32Array {
    const { size, levels, raised, envelope } = this,
      bins = size / 2 + 1;
    let loudest = -Infinity;
    for (let k = 0; k < bins; k++) {
      let power = 1e-20;
      for (const spectrum of spectra)
        power += k === 0 ? spectrum[0] ** 2 : k === bins - 1 ? spectrum[1] ** 2 : spectrum[2 * k] ** 2 + spectrum[2 * k + 1] ** 2;
      levels[k] = Math.log(power) / 2;
      if (levels[k] > loudest) loudest = levels[k];
    }
    for (let k = 0; k < bins; k++) levels[k] = Math.max(levels[k], loudest - rangeNepers);
    raised.set(levels);
    let order = 0;
    for (let round = 0; round < rounds; round++) {
      const cepstrum = this.cepstrumOf(raised);
      if (round === 0) order = this.orderOf(cepstrum);
      this.smooth(cepstrum, order);
      let over = 0;
      for (let k = 0; k < bins; k++) {
        over = Math.max(over, levels[k] - envelope[k]);
        raised[k] = Math.max(levels[k], envelope[k]);
      }
      if (over < closeEnough) break;
    }
    drawThrough(partialsOfVoice(levels, size / this.periodFrames), envelope, this.voiced);
    return envelope;
  }

  private cepstrumOf(values: Float32Array): Float32Array {
    const { spectrum } = this.fft,
      last = this.size / 2;
    spectrum[0] = values[0];
    spectrum[1] = values[last];
    for (let k = 1; k < last; k++) {
      spectrum[2 * k] = values[k];
      spectrum[2 * k + 1] = 0;
    }
    this.fft.inverse();
    return this.fft.time;
  }

  /** Half the period where the cepstrum has its peak: finer than that only partials are seen. */
  private orderOf(cepstrum: Float32Array): number {
    const from = Math.round(shortestPeriodSeconds * this.sampleRateHz),
      to = Math.min(this.size / 2, Math.round(longestPeriodSeconds * this.sampleRateHz));
    let peak = from;
    for (let n = from; n <= to; n++) if (cepstrum[n] > cepstrum[peak]) peak = n;
    this.periodFrames = peak;
    this.voiced = Math.max(0, Math.min(1, (cepstrum[peak] / this.size - leastPeak) / (surePeak - leastPeak)));
    return Math.max(20, Math.round(peak * 0.5));
  }

  /** The cepstrum up to `order`, its end faded, as an envelope again. */
  private smooth(cepstrum: Float32Array, order: number): void {
    const { fft, envelope, size } = this;
    for (let n = 0; n <= size / 2; n++) {
      const weight = n <= order ? 1 : n < order * 1.4 ? 0.5 + 0.5 * Math.cos((Math.PI * (n - order)) / (order * 0.4)) : 0;
      cepstrum[n] *= weight / size;
      if (n > 0 && n < size / 2) cepstrum[size - n] *= weight / size;
    }
    fft.forward();
    const { spectrum } = fft;
    envelope[0] = spectrum[0];
    envelope[size / 2] = spectrum[1];
    for (let k = 1; k < size / 2; k++) envelope[k] = spectrum[2 * k];
  }
}
