import { readConfig } from './config.server';

test('without settings everything has one', () =>
  expect(readConfig({})).toMatchObject({ demo: true, listenAddress: '127.0.0.1', poolThreads: 2, statementTimeoutMs: 0, publicUrl: null }));
test('settings are read as what they are', () =>
  expect(
    readConfig({
      GARNETFINCH_THREADS: '4',
      GARNETFINCH_DEMO: '0',
      GARNETFINCH_PUBLIC_URL: 'https://loops.example/',
      GARNETFINCH_LOG: 'debug',
      PATH: '/bin',
    }),
  ).toMatchObject({ poolThreads: 4, demo: false, publicUrl: new URL('https://loops.example/'), logLevel: 'debug' }));
test('all that cannot be used are named at once', () => {
  const read = () =>
    readConfig({
      GARNETFINCH_THREADS: 'many',
      GARNETFINCH_PUBLIC_URL: 'ftp://x.example',
      GARNETFINCH_LOG: 'loud',
      // Before the others no job process may push itself.
      GARNETFINCH_NICENESS: '-5',
    });
  expect(read).toThrow(/GARNETFINCH_THREADS/);
  expect(read).toThrow(/GARNETFINCH_PUBLIC_URL/);
  expect(read).toThrow(/GARNETFINCH_LOG/);
  expect(read).toThrow(/GARNETFINCH_NICENESS/);
});
