import { loadTransforms } from '../core/dsp/real-fft';

beforeAll(loadTransforms);
