import { peakOf } from '../../dsp/kernels/planes';
import { toMono } from '../../dsp/spectrogram';
import type { PcmAudio } from '../../formats/pcm';
import { fitNotes, type NoteFrames } from '../notes/note-fit';
import { onsetBands, type OnsetBands } from '../onsets/onset-bands';
import { melFrames, type MelFrames } from './mel';
import { soundSpan, type SoundSpan } from './span';
import { toneFrames, type ToneFrames } from './tones';

/** A sound as all estimators hear it; what costs much is computed once, when the first of them asks. At 44.1 kHz. */
export interface Heard {
  readonly sampleRateHz: number;
  readonly mono: Float32Array;
  /** What scales the peak to 1; 0 for silence. */
  readonly gain: number;
  readonly span: SoundSpan;
  readonly mel: MelFrames;
  readonly onsets: OnsetBands;
  readonly tones: ToneFrames;
  readonly notes: NoteFrames;
  /** Of a longer file only this much was heard. */
  readonly heardSeconds: number;
}

/** Longer files are heard in part: spectra of twenty minutes would not fit into a worker. */
export const longestHeardSeconds = 120;

/** @param whole what is known of the rest, when `pcm` is only the beginning of a long file */
export function hear(pcm: PcmAudio, whole: Pick<SoundSpan, 'fileSeconds' | 'lastSoundSeconds' | 'endLevelDb'> | null = null): Heard {
  const { sampleRateHz } = pcm,
    all = toMono(pcm.channels),
    mono = all.length > longestHeardSeconds * sampleRateHz ? all.subarray(0, longestHeardSeconds * sampleRateHz) : all;
  const peak = peakOf(mono),
    gain = peak > 1e-7 ? 1 / peak : 0;
  // Asked for in innermost loops: nothing but a variable may stand between.
  let mel: MelFrames | undefined, onsets: OnsetBands | undefined, tones: ToneFrames | undefined, notes: NoteFrames | undefined;
  return {
    sampleRateHz,
    mono,
    gain,
    span: { ...soundSpan(all, sampleRateHz), ...whole },
    heardSeconds: mono.length / sampleRateHz,
    get mel() {
      return (mel ??= melFrames(mono, sampleRateHz, gain));
    },
    get onsets() {
      return (onsets ??= onsetBands(this.mel));
    },
    get tones() {
      return (tones ??= toneFrames(mono, sampleRateHz, gain));
    },
    get notes() {
      return (notes ??= fitNotes(this.tones));
    },
  };
}
