import type { Measures } from '~core/analysis/analyse-audio';
import type { LoopFacts } from '~core/analysis/evidence/choose';
import { nameWords } from '~core/names/parse-name';
import { families, instrumentById } from '~core/theory/instruments';
import { keyName } from '~core/theory/key';
import { projectRateHz } from '~core/units/time';

/** Columns of a loop that follow from its facts. */
export function factColumns(facts: LoopFacts) {
  return {
    leadSeconds: facts.startSeconds,
    kind: facts.kind,
    tempoBpm: facts.tempoBpm,
    beats: facts.beats,
    bars: facts.bars,
    meter: facts.meter,
    keyTonic: facts.key?.tonic ?? null,
    keyMode: facts.key?.mode ?? null,
    pitched: facts.pitched,
    instrument: facts.instrument,
    family: facts.family,
    tempoConfidence: facts.chosen.tempo?.confidence ?? null,
    keyConfidence: facts.chosen.key?.confidence ?? null,
    kindConfidence: facts.chosen.kind?.confidence ?? null,
    instrumentConfidence: facts.chosen.instrument?.confidence ?? null,
  };
}

/** Columns of a loop that were measured. */
export function measureColumns(measures: Measures) {
  return {
    loudnessLufs: measures.loudnessLufs,
    peakDbfs: measures.peakDbfs,
    tuningCents: measures.tuningCents,
    overview: Buffer.from(measures.overview),
    onsetFrames: [...measures.onsetFrames],
    beatFrames: (measures.detail?.beatMap?.beatSeconds ?? []).map((seconds) => Math.round(seconds * projectRateHz)),
    chroma: [...measures.chroma],
    detail: measures.detail,
    likeness: measures.likeness && Buffer.from(measures.likeness.buffer, measures.likeness.byteOffset, measures.likeness.byteLength),
    print: printBytes(measures.print),
  };
}

/** The words of a print, little-endian whatever the machine. */
function printBytes(print: Uint32Array): Buffer | null {
  if (print.length === 0) return null;
  const bytes = Buffer.alloc(print.length * 4);
  print.forEach((word, k) => bytes.writeUInt32LE(word, k * 4));
  return bytes;
}

/** What words are looked for in: everything that a person may call a loop by. */
export function searchText(parts: {
  title: string;
  path: string;
  pack: string;
  vendor: string;
  facts: LoopFacts;
  tags: readonly string[];
}): string {
  const instrument = instrumentById(parts.facts.instrument),
    key = parts.facts.key
      ? keyName(parts.facts.key).replace('♯', 'sharp').replace('♭', 'flat')
      : parts.facts.pitched === false
        ? 'unpitched'
        : '';
  return [
    parts.title,
    nameWords(parts.path),
    parts.pack,
    parts.vendor,
    instrument?.label ?? '',
    parts.facts.family ? families[parts.facts.family].label : '',
    key,
    parts.facts.kind,
    ...parts.tags,
  ]
    .join(' ')
    .toLowerCase();
}
