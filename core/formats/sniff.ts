import { chunkId, latin1 } from './bytes';
import { id3Length } from './mp3/header';

export type MediaFormat = 'wav' | 'aiff' | 'flac' | 'ogg' | 'mp3' | 'midi';

/** Formats by the endings vendors use. A test walks every row. */
export const formatsByExtension: Readonly<Record<string, MediaFormat>> = {
  wav: 'wav',
  wave: 'wav',
  aif: 'aiff',
  aiff: 'aiff',
  aifc: 'aiff',
  flac: 'flac',
  ogg: 'ogg',
  oga: 'ogg',
  opus: 'ogg',
  mp3: 'mp3',
  mid: 'midi',
  midi: 'midi',
};

/** `Drums/Kick.WAV` → `wav`; '' without one. */
export function extensionOf(path: string): string {
  return /\.([A-Za-z0-9]{1,5})$/.exec(path)?.[1].toLowerCase() ?? '';
}

/** What the first bytes are, whatever the name says; null if none of ours. */
export function sniffFormat(bytes: Uint8Array): MediaFormat | null {
  const id = chunkId(bytes, 0);
  if ((id === 'RIFF' || id === 'RF64') && chunkId(bytes, 8) === 'WAVE') return 'wav';
  if (id === 'FORM' && latin1(bytes, 8, 3) === 'AIF') return 'aiff';
  if (id === 'fLaC') return 'flac';
  if (id === 'OggS') return 'ogg';
  if (id === 'MThd') return 'midi';
  const tagBytes = id3Length(bytes);
  if (tagBytes > 0 && chunkId(bytes, tagBytes) === 'fLaC') return 'flac';
  if (tagBytes > 0) return 'mp3';
  if (bytes[0] === 0xff && (bytes[1] & 0xe6) === 0xe2) return 'mp3';
  return null;
}
