import { flacLibrary } from '../../server/jobs/pool/reference-flac';

interface FlacLibrary {
  create_libflac_encoder(rateHz: number, channels: number, bits: number, level: number, totalFrames: number, verify: boolean): number;
  init_encoder_stream(
    encoder: number,
    write: (data: Uint8Array, bytes: number) => void,
    meta: (info?: { md5sum?: string }) => void,
  ): number;
  FLAC__stream_encoder_process(encoder: number, channels: readonly Int32Array[], frames: number): number;
  FLAC__stream_encoder_finish(encoder: number): number;
  FLAC__stream_encoder_delete(encoder: number): void;
}

/** FLAC bytes from integer planes `[channel][frame]`, with frame count and MD5 in STREAMINFO. */
export async function encodeFlac(channels: readonly Int32Array[], rateHz: number, bits: 16 | 24): Promise<Uint8Array> {
  const flac = await flacLibrary<FlacLibrary>(),
    frames = channels[0].length;
  const encoder = flac.create_libflac_encoder(rateHz, channels.length, bits, 5, frames, false);
  const parts: Uint8Array[] = [];
  let md5 = '';
  flac.init_encoder_stream(
    encoder,
    (data, bytes) => {
      parts.push(data.slice(0, bytes));
    },
    (info) => {
      md5 = info?.md5sum ?? md5;
    },
  );
  flac.FLAC__stream_encoder_process(encoder, channels, frames);
  flac.FLAC__stream_encoder_finish(encoder);
  flac.FLAC__stream_encoder_delete(encoder);
  const bytes = Uint8Array.from(Buffer.concat(parts));
  // A stream cannot be rewound, so the encoder leaves the MD5 empty: it belongs at byte 18 of STREAMINFO, which begins at byte 8.
  if (/^[0-9a-f]{32}$/.test(md5)) bytes.set(Buffer.from(md5, 'hex'), 26);
  return bytes;
}
