import type { Fitted } from '~core/arrangement/fit-request';
import { FakeGain, forgetSources, heard, installFakeAudio, largestStep, sources } from '../../test/audio/fake-audio';
import { CandidatePlayer } from './candidate-player';
import type { FitPool } from './fit-pool';
import type { AudioGraph } from './graph';

const cycle = 88200;
installFakeAudio();
beforeEach(forgetSources);

const fitted = (name: string): Fitted => ({
  request: {
    kind: 'cycle',
    soundSha: name,
    startFrame: 0,
    sourceFrames: cycle,
    targetFrames: cycle,
    shiftSemitones: 0,
    stretchMode: 'tonal',
    onsetFrames: [],
    beats: 4,
    instrument: null,
  },
  cycleFrames: cycle,
  cycleBeats: 4,
  speedPercent: 0,
  shiftSemitones: 0,
  reading: 1,
});

/** A player whose fitted sounds carry the name of their loop. */
function playerAt() {
  const context = { sampleRate: 44100, currentTime: 0 },
    player = new CandidatePlayer(
      { context, candidate: new FakeGain() } as unknown as AudioGraph,
      { peek: ({ soundSha }: Fitted['request']) => ({ length: cycle, name: soundSha }) } as unknown as FitPool,
    ),
    /** The audio thread's clock goes on to a frame. */
    clock = (now: number) => (context.currentTime = now / 44100),
    scheduleAhead = (now: number) => {
      clock(now);
      player.scheduleAhead(now, now + 40000);
    };
  return {
    player,
    clock,
    scheduleAhead,
    end: (frame: number, now: number) => {
      clock(now);
      player.end(frame);
    },
    begin: (name: string, line: number, now: number, { offsetFrames = 0, once = false } = {}) => {
      const loop = fitted(name);
      clock(now);
      player.start({
        id: name,
        fitted: once ? { ...loop, cycleFrames: Infinity } : loop,
        startExact: line,
        lengthFrames: cycle * 100,
        offsetFrames,
        levelRatio: 1,
      });
      scheduleAhead(now);
    },
  };
}

test('the first one begins on its line, on a whole frame, with its attack', () => {
  const { player, begin } = playerAt();
  begin('one', 10000.4, 5000);
  expect(sources).toHaveLength(1);
  expect(sources[0]).toMatchObject({ startFrame: 10000, offsetFrame: 0 });
  expect([heard('one', 9999), heard('one', 10016)]).toEqual([0, 1]);
  expect(player.originFrame).toBe(10000);
  expect(player.phase(9999)).toBeNull();
  expect(player.phase(10000 + cycle / 4)).toBeCloseTo(0.25, 9);
});

test('the next takes over in the 128 frames before its line, by equal power, led in by its own end', () => {
  const { begin } = playerAt();
  begin('one', 10000, 5000);
  begin('two', 50000, 30000);
  expect(sources[1]).toMatchObject({ startFrame: 50000 - 128, offsetFrame: cycle - 128 });
  for (let frame = 49860; frame <= 50010; frame++) expect(heard('one', frame) ** 2 + heard('two', frame) ** 2).toBeCloseTo(1, 2);
  expect([heard('one', 49872), heard('one', 50000), heard('two', 50000)]).toEqual([1, expect.closeTo(0, 6), 1]);
});

test('one that is replaced before its line never sounds, and its successor is led in all the same', () => {
  const { begin } = playerAt();
  begin('one', 10000, 5000);
  begin('two', 50000, 30000);
  begin('three', 50000, 40000);
  for (const frame of [45000, 49900, 50000, 60000]) expect(heard('two', frame)).toBe(0);
  expect(sources[2]).toMatchObject({ startFrame: 50000 - 128, offsetFrame: cycle - 128 });
  expect([heard('one', 49870), heard('one', 50001), heard('three', 50001)]).toEqual([1, expect.closeTo(0, 6), 1]);
});

test('replaced by one that comes later, or sooner, what sounds goes on until then, and no longer', () => {
  const { begin, scheduleAhead } = playerAt();
  begin('one', 10000, 5000);
  begin('two', 50000, 30000);
  begin('three', 90000, 40000);
  scheduleAhead(60000);
  expect([heard('one', 50500), heard('one', 89000), heard('one', 90001)]).toEqual([1, 1, expect.closeTo(0, 6)]);
  begin('four', 70000, 60000);
  expect([heard('one', 69000), heard('one', 70001), heard('four', 70001), heard('three', 95000)]).toEqual([1, expect.closeTo(0, 6), 1, 0]);
});

test('what sounds goes on through its cycles until the line of the next one, however far', () => {
  const { begin, scheduleAhead } = playerAt();
  begin('one', 10000, 5000);
  begin('two', 10000 + 5 * cycle, 30000);
  for (let now = 30000; now < 10000 + 5 * cycle; now += 20000) scheduleAhead(now);
  for (const frame of [10000 + cycle, 20000 + 3 * cycle, 9000 + 5 * cycle]) expect(heard('one', frame)).toBeCloseTo(1, 6);
});

test('ended while the next one waits, neither is heard any more', () => {
  const { player, begin, end } = playerAt();
  begin('one', 10000, 5000);
  begin('two', 50000, 30000);
  end(32000, 31000);
  expect([heard('one', 31999), heard('one', 32300), heard('two', 51000)]).toEqual([1, expect.closeTo(0, 6), 0]);
  expect(player.originFrame).toBeNull();
});

test('what begins in the middle of its cycle begins softly', () => {
  const { begin } = playerAt();
  begin('one', 10000, 5000, { offsetFrames: 22050 });
  expect(sources[0]).toMatchObject({ startFrame: 10000, offsetFrame: 22050 });
  expect(heard('one', 10001)).toBeLessThan(0.02);
  expect(heard('one', 10256)).toBe(1);
});

test('what comes late begins softly, at the place it would have reached', () => {
  const { begin } = playerAt();
  begin('one', 10000, 12000);
  expect(sources[0]).toMatchObject({ startFrame: 12256, offsetFrame: 2256 });
  expect(heard('one', 12257)).toBeLessThan(0.02);
});

test('nothing that takes over from a one-shot that has died away is led in', () => {
  const { begin } = playerAt();
  begin('hit', 10000, 5000, { once: true });
  begin('two', 185000, 150000);
  expect(sources[1]).toMatchObject({ startFrame: 185000, offsetFrame: 0 });
  expect(heard('two', 185016)).toBe(1);
});

test('long after it has left, a candidate is out of the graph', () => {
  const { begin, end, scheduleAhead } = playerAt();
  begin('one', 10000, 5000);
  end(20000, 19000);
  scheduleAhead(21000);
  expect(sources[0].connected).toBe(true);
  scheduleAhead(30000);
  expect(sources[0].connected).toBe(false);
});

test('a crossing that the audio thread has begun by now is not taken back: it ends where it was meant to', () => {
  const { begin, clock, player } = playerAt();
  begin('one', 10000, 5000);
  begin('two', 50000, 30000);
  // The page chose its frame at 49,000 and stood still until the crossing was half done.
  clock(49940);
  player.end(49882);
  expect(largestStep(49800, 52000)).toBeLessThan(0.065);
  expect([heard('one', 50600), heard('two', 51000)]).toEqual([0, 0].map(() => expect.closeTo(0, 6)));
});

test('two hundred starts and ends at random leave no step in anything that is heard', () => {
  const { begin, end, scheduleAhead } = playerAt();
  let seed = 5,
    now = 1000;
  const random = () => (seed = (seed * 16807) % 2147483647) / 2147483647;
  for (let act = 0; act < 200; act++) {
    if (random() < 0.15) end(now + 882, now);
    else begin(`loop ${act}`, now + 1323 + Math.floor(random() * 60000), now, { offsetFrames: random() < 0.4 ? random() * cycle : 0 });
    for (const until = now + random() * 14000; now < until; now += 1024) scheduleAhead(now);
    const at = Math.floor(now - random() * 6000);
    expect(largestStep(at, at + 400)).toBeLessThan(0.065);
  }
});
