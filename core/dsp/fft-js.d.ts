declare module 'fft.js' {
  export default class FFT {
    constructor(size: number);
    createComplexArray(): number[];
    transform(output: ArrayLike<number>, input: ArrayLike<number>): void;
    inverseTransform(output: ArrayLike<number>, input: ArrayLike<number>): void;
  }
}
