import openLibrary from 'libflacjs';

interface FrameHeader {
  readonly bitsPerSample: number;
}
interface FlacLibrary {
  isReady(): boolean;
  on(event: 'ready', run: () => void): void;
  create_libflac_decoder(verify: boolean): number;
  init_decoder_stream(
    decoder: number,
    read: (most: number) => { readonly buffer: Uint8Array; readonly readDataLength: number; readonly error: boolean },
    write: (channels: readonly Uint8Array[], header: FrameHeader) => void,
    fail: () => void,
  ): number;
  FLAC__stream_decoder_process_single(decoder: number): boolean | number;
  FLAC__stream_decoder_get_state(decoder: number): number;
  FLAC__stream_decoder_delete(decoder: number): void;
}

/** FLAC__STREAM_DECODER_END_OF_STREAM and all states of failure after it. */
const endState = 4;

let library: Promise<FlacLibrary> | null = null;

/** The reference library, once it is ready. @typeParam Part what of it is used */
export function flacLibrary<Part>(): Promise<Part> {
  library ??= new Promise((done) => {
    const flac = openLibrary('release') as unknown as FlacLibrary;
    if (flac.isReady()) done(flac);
    else flac.on('ready', () => done(flac));
  });
  return library as Promise<unknown> as Promise<Part>;
}

/** The sound of a FLAC file frame by frame, as the reference decoder reads it: slower, and right about every corner of RFC 9639. */
export async function* referenceFlacPieces(bytes: Uint8Array): AsyncGenerator<readonly Float32Array[]> {
  const flac = await flacLibrary<FlacLibrary>(),
    decoder = flac.create_libflac_decoder(false),
    made: Float32Array[][] = [];
  let at = 0;
  try {
    const state = flac.init_decoder_stream(
      decoder,
      (most) => {
        const buffer = bytes.subarray(at, at + most);
        at += buffer.length;
        return { buffer, readDataLength: buffer.length, error: false };
      },
      (channels, { bitsPerSample }) => made.push(channels.map((plane) => toFloats(plane, bitsPerSample))),
      () => {},
    );
    if (state !== 0) return;
    while (flac.FLAC__stream_decoder_get_state(decoder) < endState && flac.FLAC__stream_decoder_process_single(decoder)) {
      yield* made;
      made.length = 0;
    }
    yield* made;
  } finally {
    flac.FLAC__stream_decoder_delete(decoder);
  }
}

/** Whole numbers, low byte first, as −1 … 1. */
function toFloats(bytes: Uint8Array, bits: number): Float32Array {
  const each = Math.ceil(bits / 8),
    view = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  return Float32Array.from({ length: Math.floor(bytes.length / each) }, (_, i) => view.readIntLE(i * each, each) / 2 ** (bits - 1));
}
