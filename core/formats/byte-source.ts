/** Bytes that can be looked at in places: a file need not be in memory to be understood. */
export interface ByteSource {
  readonly size: number;
  /** `length` bytes from `at`; fewer where the source ends before. */
  read(at: number, length: number): Uint8Array;
}

/** Bytes that are in memory, read as a file would be: what lies beyond the end is left out. */
export const bytesInMemory = (bytes: Uint8Array): ByteSource => ({
  size: bytes.length,
  read: (at, length) => bytes.subarray(at, Math.min(bytes.length, at + length)),
});

/** Samples that lie interleaved in a source, as a header describes them. */
export interface SampleLayout {
  readonly sampleRateHz: number;
  readonly channelCount: number;
  readonly bits: number;
  readonly coding: 'int' | 'uint8' | 'float';
  readonly littleEndian: boolean;
  /** Where the first frame begins, and how many there are. */
  readonly offset: number;
  readonly frames: number;
}
