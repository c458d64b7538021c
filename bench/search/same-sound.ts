import { createMp3Encoder } from 'wasm-media-encoders';
import { overviewColumns } from '~core/analysis/analysis';
import { fingerprint } from '~core/analysis/fingerprint/fingerprint';
import { sameSoundBelow, soundDistance, type SoundMarks } from '~core/analysis/fingerprint/same-sound';
import { hear } from '~core/analysis/listen/hear';
import { overviewPeaks } from '~core/analysis/peaks/peaks';
import { loadTransforms } from '~core/dsp/real-fft';
import { resampleCycle } from '~core/dsp/resample';
import { lengthFrames, type PcmAudio } from '~core/formats/pcm';
import { writeWav } from '~core/formats/wav/write';
import { decodeFile, toProjectRate } from '~server/jobs/pool/decode';
import type { FileSpec } from '../../demo/catalogue';
import { encodeAudio } from '../../demo/encode/encode';
import { renderAudio } from '../../demo/render';

const scaled = (pcm: PcmAudio, gain: number): PcmAudio => ({
  ...pcm,
  channels: pcm.channels.map((plane) => plane.map((value) => value * gain)),
});

async function asMp3(pcm: PcmAudio): Promise<Uint8Array> {
  const encoder = await createMp3Encoder();
  encoder.configure({ sampleRate: pcm.sampleRateHz as 44100, channels: pcm.channels.length as 1 | 2, bitrate: 128 });
  const parts: Uint8Array[] = [];
  for (let at = 0; at < lengthFrames(pcm); at += 65536)
    parts.push(encoder.encode(pcm.channels.map((plane) => plane.subarray(at, at + 65536))).slice());
  parts.push(encoder.finalize().slice());
  return Uint8Array.from(Buffer.concat(parts));
}

/** Ways in which the same sound comes in once more, each as a file. */
const copies: Readonly<Record<string, (pcm: PcmAudio, name: string) => Promise<Uint8Array>>> = {
  'AIFF, 24 bits': (pcm, name) => encodeAudio(pcm, 'aiff24', name, false),
  FLAC: (pcm, name) => encodeAudio(pcm, 'flac', name, false),
  '16 bits, with loop points': (pcm, name) => encodeAudio(pcm, 'wav16', name, true),
  '8 bits': async (pcm) => writeWav(pcm, 'uint8'),
  '12 dB softer': async (pcm) => writeWav(scaled(pcm, 0.25), 'int24'),
  '48 kHz': async (pcm) => {
    const channels = resampleCycle(pcm.channels, Math.round((lengthFrames(pcm) * 48_000) / pcm.sampleRateHz));
    return writeWav({ sampleRateHz: 48_000, channels }, 'int24');
  },
  'Ogg Vorbis': (pcm, name) => encodeAudio(pcm, 'ogg', name, false),
  'MP3, 128 kbit/s': asMp3,
};

async function marksOf(file: Uint8Array): Promise<SoundMarks> {
  const pcm = toProjectRate((await decodeFile(file)).pcm);
  return {
    fingerprint: fingerprint(hear(pcm).tones),
    overview: overviewPeaks(pcm.channels, overviewColumns),
    lengthSeconds: lengthFrames(pcm) / pcm.sampleRateHz,
  };
}

export interface SameSoundResult {
  readonly loops: number;
  /** Of each kind of copy, how many were known again, and the loops whose copies were not. */
  readonly copies: readonly { readonly name: string; readonly found: number; readonly missed: readonly string[] }[];
  /** Pairs of different loops that are as long as each other, siblings among them, and those that were taken for one. */
  readonly pairs: number;
  readonly taken: readonly string[];
}

/** As long as each other, within what encoders add; as the library asks for what it compares. */
const asLong = (a: SoundMarks, b: SoundMarks): boolean =>
  Math.abs(a.lengthSeconds - b.lengthSeconds) <= Math.max(0.15, a.lengthSeconds * 0.01);
const isSame = (a: SoundMarks, b: SoundMarks): boolean => {
  const distance = soundDistance(a, b, sameSoundBelow);
  return distance !== null && distance < sameSoundBelow;
};

/** How many copies of these loops are known again, and how many different ones are taken for copies. */
export async function knowAgain(specs: readonly FileSpec[], onLoop: (done: number) => void = () => {}): Promise<SameSoundResult> {
  await loadTransforms();
  const originals: { readonly path: string; readonly marks: SoundMarks }[] = [],
    found = Object.keys(copies).map((name) => ({ name, found: 0, missed: [] as string[] }));
  for (const spec of specs) {
    const pcm = renderAudio(spec),
      marks = await marksOf(writeWav(pcm, 'int24'));
    originals.push({ path: spec.path, marks });
    for (const kind of found) {
      const copy = await marksOf(await copies[kind.name](pcm, spec.path));
      if (asLong(marks, copy) && isSame(marks, copy)) kind.found++;
      else kind.missed.push(spec.path);
    }
    onLoop(originals.length);
  }
  const taken: string[] = [];
  let pairs = 0;
  originals.forEach((one, k) =>
    originals.slice(0, k).forEach((other) => {
      if (!asLong(one.marks, other.marks)) return;
      pairs++;
      if (isSame(one.marks, other.marks)) taken.push(`${other.path} = ${one.path}`);
    }),
  );
  return { loops: originals.length, copies: found, pairs, taken };
}
