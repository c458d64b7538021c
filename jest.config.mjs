const swc = {
  jsc: { target: 'es2022', parser: { syntax: 'typescript', tsx: true }, transform: { react: { runtime: 'automatic' } } },
  module: { type: 'commonjs' },
};

/** Node packages that are published as ES modules only and must be transformed for CommonJS tests. */
const esmPackages = [
  '@echogarden/pffft-wasm',
  'd3',
  'd3-[^/]+',
  'internmap',
  'delaunator',
  'robust-predicates',
  'mpg123-decoder',
  '@wasm-audio-decoders/[^/]+',
  '@eshaz/web-worker',
  'simple-yenc',
  'codec-parser',
  'wasm-media-encoders',
  'ogg-opus-decoder',
  'opus-decoder',
  'p-retry',
  'is-network-error',
  '@tus/[^/]+',
  'srvx',
  'debug',
  'piscina',
  'p-limit',
  'yocto-queue',
];

export default {
  testEnvironment: 'node',
  roots: [
    '<rootDir>/core',
    '<rootDir>/contracts',
    '<rootDir>/command',
    '<rootDir>/server',
    '<rootDir>/app',
    '<rootDir>/workers',
    '<rootDir>/demo',
    '<rootDir>/training',
    '<rootDir>/scripts',
    '<rootDir>/bench',
    '<rootDir>/exchange',
    '<rootDir>/test/db',
    '<rootDir>/test/command',
  ],
  testMatch: ['**/*.test.ts', '**/*.test.tsx'],
  moduleNameMapper: {
    '^~core/(.*)$': '<rootDir>/core/$1',
    '^~contracts/(.*)$': '<rootDir>/contracts/$1',
    '^~server/(.*)$': '<rootDir>/server/$1',
    '^~workers/(.*)$': '<rootDir>/workers/$1',
    '^~demo/(.*)$': '<rootDir>/demo/$1',
    '^~/(.*)$': '<rootDir>/app/$1',
  },
  setupFilesAfterEnv: ['<rootDir>/test/load-transforms.ts'],
  transformIgnorePatterns: [`/node_modules/(?!(${esmPackages.join('|')})/)`],
  transform: { '^.+\\.m?[jt]sx?$': ['@swc/jest', swc] },
  // Looked up in the sandbox, a global costs a microsecond a time: fifty times as much as a sum.
  sandboxInjectedGlobals: ['Math', 'Float32Array', 'Float64Array', 'Int32Array', 'Uint8Array'],
  testTimeout: 60_000,
  // On two cores the default is one worker: nothing here watches the clock, so both may work.
  maxWorkers: '100%',
};
