import { encodeAudio } from './encode/encode';
import { renderAudio, renderMidi } from './render';
import type { FileSpec } from './catalogue';

/** Renders and encodes one file of a pack in a thread. */
export default async function renderFile(spec: FileSpec): Promise<Uint8Array> {
  if (spec.format === 'midi') return renderMidi(spec);
  const repeats = spec.truth.kind === 'loop' && !spec.trouble.tailSeconds && !spec.trouble.leadSeconds;
  return encodeAudio(renderAudio(spec), spec.format, spec.path, repeats && spec.path.startsWith('Drum Loops/96'));
}
