import { transportAt } from '../../test/audio/transport';
import type { FitRequest } from '~core/arrangement/fit-request';
import type { Schedule, SoundEvent } from '~core/arrangement/schedule';
import { FakeGain, forgetSources, heard, installFakeAudio, largestStep, sources } from '../../test/audio/fake-audio';
import { fitPriority, type FitPool } from './fit-pool';
import type { AudioGraph } from './graph';
import { ProjectPlayer } from './project-player';
import type { Transport } from './transport';

installFakeAudio();
beforeEach(forgetSources);

const beat = 22050,
  event = (name: string, startBeat: number, endBeat: number): SoundEvent => ({
    id: name,
    trackId: 'track',
    bufferKey: name,
    startFrame: startBeat * beat,
    endFrame: endBeat * beat,
    offsetFrame: 0,
    cyclic: true,
    fadeInFrames: 16,
    fadeOutFrames: 128,
    gainRatio: 1,
  }),
  scheduleOf = (...events: SoundEvent[]): Schedule => ({
    events,
    requests: new Map(events.map(({ bufferKey }) => [bufferKey, { soundSha: bufferKey } as FitRequest])),
    endFrame: 32 * beat,
  }),
  transport = (changes: Partial<Transport> = {}) => transportAt({ originFrame: 10000, ...changes });

/** A player whose fitted sounds carry their name; those in `gone` are not there. */
function made(gone = new Set<string>()) {
  const asked: [string, number][] = [],
    pool = {
      peek: ({ soundSha }: FitRequest) => (gone.has(soundSha) ? null : { length: 4 * beat, name: soundSha }),
      request: ({ soundSha }: FitRequest, priority: number) => {
        asked.push([soundSha, priority]);
        return soundSha === 'broken' ? Promise.reject(new Error('broken')) : Promise.resolve({});
      },
    } as unknown as FitPool;
  return {
    asked,
    player: new ProjectPlayer(
      { context: { sampleRate: 44100, currentTime: 0 }, trackInput: () => new FakeGain() } as unknown as AudioGraph,
      pool,
    ),
  };
}

test('each event begins on its frame, once, however often it is looked at', () => {
  const { player } = made(),
    schedule = scheduleOf(event('one', 0, 8), event('two', 1, 4));
  for (let now = 8000; now < 30000; now += 1024) player.scheduleAhead(schedule, transport(), now, now + 39690);
  expect(sources.map(({ name, startFrame }) => [name, startFrame])).toEqual([
    ['one', 10000],
    ['two', 10000 + beat],
  ]);
});

test('a range comes round: its events begin again at its start and end at its end', () => {
  const { player } = made(),
    schedule = scheduleOf(event('one', 0, 8)),
    ranged = transport({ range: { startBeat: 0, endBeat: 4 } });
  for (let now = 8000; now < 10000 + 6 * beat; now += 1024) player.scheduleAhead(schedule, ranged, now, now + 39690);
  expect(sources.map(({ startFrame }) => startFrame)).toEqual([10000, 10000 + 4 * beat]);
  expect(heard('one', 10000 + 4 * beat + 1000)).toBe(1);
});

test('sought in the middle, it begins softly at its place; a mere remainder does not begin at all', () => {
  const { player } = made();
  player.scheduleAhead(scheduleOf(event('one', 0, 8), event('over', 0, 2)), transport({ originBeat: 2 }), 9000, 40000);
  // Half a frame's rounding of the line before may leave a frame of it.
  player.scheduleAhead({ ...scheduleOf({ ...event('rest', 0, 2), endFrame: 2 * beat + 1 }) }, transport({ originBeat: 2 }), 9000, 40000);
  expect(sources.map(({ name }) => name)).toEqual(['one']);
  expect(sources[0]).toMatchObject({ startFrame: 10000, offsetFrame: 2 * beat });
  expect([heard('one', 10001) < 0.02, heard('one', 10256)]).toEqual([true, 1]);
});

test('a buffer that was pushed out of the cache is asked for again, once, and comes in late at its place', async () => {
  const gone = new Set(['one', 'broken']),
    { player, asked } = made(gone),
    schedule = scheduleOf(event('broken', 0, 8), event('one', 0, 8));
  for (let now = 8000; now < 12000; now += 1024) {
    player.scheduleAhead(schedule, transport(), now, now + 39690);
    if (now === 8000) await Promise.resolve();
  }
  expect(asked.filter(([name]) => name === 'broken')).toEqual([['broken', fitPriority.project]]);
  expect(asked[0]).toEqual(['broken', fitPriority.project]);
  expect(sources).toHaveLength(0);
  gone.delete('one');
  player.scheduleAhead(schedule, transport(), 20000, 60000);
  expect(sources).toHaveLength(1);
  expect(sources[0].offsetFrame).toBe(sources[0].startFrame - 10000);
  player.cut(50000);
  player.scheduleAhead(schedule, transport(), 20000, 60000);
  expect(asked.filter(([name]) => name === 'broken')).toHaveLength(2);
});

test('what the new schedule no longer has fades, what it has goes on untouched', () => {
  const { player } = made(),
    before = scheduleOf(event('one', 0, 8), event('two', 0, 8));
  player.scheduleAhead(before, transport(), 8000, 40000);
  player.keepOnly(scheduleOf(event('two', 0, 8)), 30000);
  expect([heard('one', 29999), heard('one', 30256), heard('two', 40000)]).toEqual([1, 0, 1]);
  expect(largestStep(29000, 31000)).toBeLessThan(0.005);
  expect(sources).toHaveLength(2);
});
