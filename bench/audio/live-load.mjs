// The live engine under load: random acts, clicks, a project of many tracks.
import { startTap } from './live-tap.mjs';

/**
 * Runs in the page: 200 random seeks, swaps, starts and changes of tempo under load. The load: a worker that never rests, and a main thread
 * that is kept busy for 30 ms in a hundred.
 */
async function act() {
  const { engine, projectStore } = window.garnetfinch,
    { rows } = await window.wholeRows('kind=loop&family=keys'),
    wait = (ms) => new Promise((resolve) => setTimeout(resolve, ms)),
    tempo = projectStore.store.getState().project.tempoBpm,
    counts = { seek: 0, swap: 0, start: 0, tempo: 0 };
  let seed = 7;
  const random = () => (seed = (seed * 16807) % 2147483647) / 2147483647;
  const worker = new Worker(URL.createObjectURL(new Blob(['let x=0;for(;;){x+=Math.sqrt(x+1)}'])));
  const busy = setInterval(() => {
    const until = performance.now() + 30;
    while (performance.now() < until);
  }, 100);
  window.starts = [];
  for (let done = 0; done < 200; done++) {
    const kind = ['seek', 'swap', 'swap', 'start', 'tempo'][Math.floor(random() * 5)];
    counts[kind]++;
    if (kind === 'seek') engine.seek(Math.floor(random() * 32));
    else if (kind === 'swap') void engine.audition.start(rows[Math.floor(random() * Math.min(12, rows.length))]);
    else if (kind === 'start') {
      engine.stop();
      await wait(30);
      await engine.play();
    } else projectStore.edit({ kind: 'set-project', changes: { tempoBpm: 110 + Math.floor(random() * 5) * 5 } });
    await wait(120 + random() * 200);
  }
  clearInterval(busy);
  worker.terminate();
  engine.stop();
  projectStore.edit({ kind: 'set-project', changes: { tempoBpm: tempo } });
  return counts;
}

/** Every start of 200 acts under load against the schedule, and the blocks the audio thread left out. */
export async function randomActs(page) {
  await page.evaluate(() => {
    window.garnetfinch.engine.stop();
    window.gapsBefore = window.tap.gaps;
  });
  const counts = await page.evaluate(act);
  const result = await page.evaluate(() => {
    const wrong = [];
    let late = 0;
    for (const { frame, asked, offset, transport, repeats } of window.starts) {
      if (frame < asked) late++;
      // A riser ends on its line and begins anywhere.
      if (!transport || !repeats) continue;
      // Where the loop's own start lies must be on a half beat of the grid, to the frame.
      const beat = (60 / transport.tempoBpm) * 44100,
        halves = ((Math.round(frame) - Math.round(offset) - transport.originFrame) / beat + transport.originBeat) * 2,
        off = Math.abs(halves - Math.round(halves)) * (beat / 2);
      if (off > 1.01 || Math.abs(frame - Math.round(frame)) > 1e-3) wrong.push(off);
    }
    return {
      checked: window.starts.length,
      wrong: wrong.length,
      most: Math.max(0, ...wrong),
      late,
      gaps: window.tap.gaps - window.gapsBefore,
    };
  });
  console.log(
    `200 acts under load (${Object.entries(counts)
      .map(([kind, count]) => `${count} ${kind}s`)
      .join(
        ', ',
      )}): ${result.checked} starts, ${result.wrong} more than a frame off the grid${result.wrong ? ` (by up to ${result.most.toFixed(1)})` : ''}, ${result.late} asked for in the past; blocks left out by the audio thread: ${result.gaps}`,
  );
}

/**
 * The same acts with a tone in the place of every fitted loop, whole periods to the cycle: whatever bends more sharply than the tones and their
 * fades do is a click of our making, wherever it lies.
 */
export async function clicksOnTones(page) {
  await page.evaluate(() => {
    const { engine } = window.garnetfinch,
      { pool } = engine.opened,
      made = new Map(),
      frames = (request) => Math.max(1, Math.round(request.targetFrames));
    const tone = (request) => {
      const length = frames(request),
        key = `${request.soundSha} ${length}`;
      if (!made.has(key)) {
        let seed = 0;
        for (const letter of request.soundSha) seed = (seed * 31 + letter.charCodeAt(0)) % 997;
        const buffer = new AudioBuffer({ numberOfChannels: 2, length, sampleRate: 44100 }),
          periods = Math.round((length / 44100) * 110 * 2 ** ((seed % 24) / 12));
        for (const channel of [0, 1])
          buffer.copyToChannel(
            Float32Array.from({ length }, (_, i) => {
              const edge = request.kind === 'cycle' ? 1 : Math.min(1, i / 2000, (length - i) / 2000);
              return 0.2 * edge * Math.sin((2 * Math.PI * periods * i) / length);
            }),
            channel,
          );
        made.set(key, buffer);
      }
      return made.get(key);
    };
    window.tap.keeps = true;
    window.fitted = { peek: pool.peek, request: pool.request };
    pool.peek = tone;
    // Some are ready, some come after a while.
    pool.request = (request) => new Promise((resolve) => setTimeout(() => resolve(tone(request)), made.size % 3 === 0 ? 200 : 0));
    /** The sharpest bend in each block since the last call, sharpest first; what lies on either side of a gap is left out. */
    window.bends = () => {
      const sharpest = [];
      let before = null;
      for (const frame of [...window.tap.blocks.keys()].sort((a, b) => a - b)) {
        const samples = window.tap.blocks.get(frame),
          whole = before && frame - before.frame === 128 ? [...before.samples.slice(-2), ...samples] : [...samples];
        let most = 0;
        for (let i = 2; i < whole.length; i++) most = Math.max(most, Math.abs(whole[i] - 2 * whole[i - 1] + whole[i - 2]));
        sharpest.push(most);
        before = { frame, samples };
      }
      window.tap.blocks.clear();
      return sharpest.sort((a, b) => b - a);
    };
  });
  const quiet = await page.evaluate(async () => {
    const { engine } = window.garnetfinch,
      wait = (ms) => new Promise((resolve) => setTimeout(resolve, ms));
    engine.stop();
    // Once for the making of the tones, which takes longer than anything the page does while it plays.
    await engine.play();
    await wait(1000);
    engine.stop();
    await wait(500);
    window.tap.blocks.clear();
    await engine.play();
    await wait(20000);
    return window.bends();
  });
  await page.evaluate(act);
  const acts = await page.evaluate(() => {
    const found = window.bends();
    Object.assign(window.garnetfinch.engine.opened.pool, window.fitted);
    return found;
  });
  // Three tones that begin at once bend by 0.011; the clicks that were found and mended by 0.03 to 0.2.
  const limit = 0.02;
  console.log(
    `the same acts with tones for loops: sharpest bend ${acts[0].toFixed(4)} in ${acts.length} blocks, ${quiet[0].toFixed(4)} in ${quiet.length} of quiet playing; clicks (above ${limit}): ${acts.filter((bend) => bend > limit).length}`,
  );
}

/** A project of 64 tracks, played for minutes: where its last starts lie, and what memory does. */
export async function manyTracks(page, address, minutes) {
  const created = await page.request.post(`${address}/api/v1/projects`, {
    form: { intent: 'create', name: `Sixty-four tracks ${Date.now()}`, tempo: '118.7', key: '9m', meter: '4/4' },
  });
  if (!created.ok()) throw new Error('the project of 64 tracks could not be made');
  await page.goto(`${address}/`);
  await page.waitForSelector('html[data-ready=yes]');
  await page.evaluate(startTap);
  await page.evaluate(async () => {
    const { projectStore } = window.garnetfinch,
      rows = [];
    for (let offset = 0; rows.length < 64 && offset < 300; offset += 60)
      rows.push(...(await window.wholeRows(`kind=loop&offset=${offset}`)).rows.filter(({ source }) => source.tempoBpm && source.beats));
    rows.slice(0, 64).forEach((row, index) =>
      projectStore.edit(
        {
          kind: 'add-track',
          index,
          track: {
            kind: 'track',
            id: `t${index}`,
            name: `Track ${index + 1}`,
            colour: index % 6,
            gainDb: -24,
            pan: 0,
            muted: false,
            soloed: false,
            clips: [
              {
                kind: 'clip',
                id: `c${index}`,
                loopId: row.id,
                startBeat: 0,
                lengthBeats: 2400,
                offsetBeats: 0,
                gainDb: 0,
                shiftSemitones: 0,
                followTempo: true,
                followKey: true,
              },
            ],
          },
        },
        [row],
      ),
    );
  });
  await page.waitForFunction(() => window.garnetfinch.engine.store.getState().fittingCount === 0, null, { timeout: 240_000 });
  const inspector = await page.context().newCDPSession(page);
  // What is still held when the garbage is out, buffers of sound included, MB.
  const memory = async () => {
    await inspector.send('HeapProfiler.collectGarbage');
    const { usedSize, backingStorageSize = 0 } = await inspector.send('Runtime.getHeapUsage');
    return ((usedSize + backingStorageSize) / 2 ** 20).toFixed(1);
  };
  await page.evaluate(() => {
    window.starts = [];
    return window.garnetfinch.engine.play();
  });
  await page.waitForTimeout(20_000);
  const held = [await memory()],
    gapsBefore = await page.evaluate(() => window.tap.gaps);
  for (let quarter = 0; quarter < 4; quarter++) {
    await page.waitForTimeout((minutes * 60_000 - 20_000) / 4);
    held.push(await memory());
  }
  const result = await page.evaluate(() => {
    const offs = window.starts.map(({ frame, offset, transport }) => {
      const beat = (60 / transport.tempoBpm) * 44100,
        beats = (Math.round(frame) - Math.round(offset) - transport.originFrame) / beat + transport.originBeat;
      return Math.abs(beats - Math.round(beats)) * beat;
    });
    window.garnetfinch.engine.stop();
    return { starts: offs.length, most: Math.max(...offs), last: Math.max(...offs.slice(-64)), gaps: window.tap.gaps };
  });
  console.log(
    `64 tracks for ${minutes} minutes: ${result.starts} starts, none farther from its beat than ${result.most.toFixed(2)} frames, the last 64 than ${result.last.toFixed(2)}; held in memory after 20 s and at each quarter, MB: ${held.join(', ')}; blocks left out ${result.gaps - gapsBefore}`,
  );
}
