// The engine in Chromium, heard by a tap on the audio thread; see `npm run bench:audio -- --live ADDRESS`.
import { openBrowser } from '../../scripts/lib/browser.mjs';

const sorted = (values) => [...values].sort((a, b) => a - b);
const quantile = (values, share) => sorted(values)[Math.min(values.length - 1, Math.floor(values.length * share))] ?? NaN;

/** Runs in the page: a tap on the sum that counts the blocks left out and, while `keeps` is set, holds the last two minutes of them. */
async function startTap() {
  const { engine } = window.garnetfinch;
  await engine.open();
  // `currentFrame` stands still for a block whenever the page holds the graph at that moment: blocks are counted here, and left out are
  // only those by which it runs ahead of the count.
  const code = `class Tap extends AudioWorkletProcessor {
    constructor() { super(); this.frame = -1; this.gaps = 0; }
    process(inputs) {
      if (this.frame < 0) this.frame = currentFrame;
      else this.frame += 128;
      for (; currentFrame > this.frame; this.frame += 128) this.gaps++;
      const samples = new Float32Array(128), first = inputs[0][0];
      if (first) samples.set(first);
      this.port.postMessage({ frame: this.frame, samples, gaps: this.gaps }, [samples.buffer]);
      return true;
    }
  }
  registerProcessor('bench-tap', Tap);`;
  await engine.context.audioWorklet.addModule(URL.createObjectURL(new Blob([code], { type: 'text/javascript' })));
  const tap = new AudioWorkletNode(engine.context, 'bench-tap', { numberOfOutputs: 0 });
  window.tap = { blocks: new Map(), gaps: 0, keeps: false };
  tap.port.onmessage = ({ data }) => {
    window.tap.gaps = data.gaps;
    if (!window.tap.keeps) return;
    window.tap.blocks.set(data.frame, data.samples);
    if (window.tap.blocks.size > 40000) window.tap.blocks.delete(window.tap.blocks.keys().next().value);
  };
  engine.master.connect(tap);
}

/** In the page: what a search finds, with all that hearing it needs; lists come without. */
const wholeRowsInPage = () => {
  window.wholeRows = async (query) => {
    const { rows } = await (await fetch(`/api/v1/loops?${query}`)).json();
    return (await fetch(`/api/v1/loops?${rows.map(({ id }) => `id=${id}`).join('&')}`)).json();
  };
};

/** Every source that is started, with the frame it was given; blocks of the main thread over 50 ms. */
function watch() {
  window.starts = [];
  window.longTasks = [];
  const start = AudioBufferSourceNode.prototype.start;
  AudioBufferSourceNode.prototype.start = function (when, offset) {
    window.starts.push({
      frame: when * 44100,
      asked: this.context.currentTime * 44100,
      offset: (offset ?? 0) * 44100,
      repeats: this.loop,
      transport: window.garnetfinch.engine.transport,
    });
    return start.apply(this, arguments);
  };
  new PerformanceObserver((list) => {
    for (const entry of list.getEntries()) window.longTasks.push(Math.round(entry.duration));
  }).observe({ type: 'longtask' });
}

/** @param minutes how long the project of 64 tracks is played; 0 leaves it out */
export async function benchLive(address, minutes) {
  const browser = await openBrowser(),
    page = await browser.newPage({ viewport: { width: 1280, height: 800 }, bypassCSP: true });
  await page.addInitScript(watch);
  await page.addInitScript(wholeRowsInPage);
  await page.goto(`${address}/sign-in`);
  await page.getByRole('button', { name: 'Ines Marlowe' }).click();
  await page.waitForSelector('html[data-ready=yes]');
  await page.getByLabel('Project in the room').selectOption({ label: 'Engine Room' });
  await page.getByRole('region', { name: 'Project', exact: true }).getByRole('link', { name: 'Engine Room' }).waitFor();
  await page.goto(`${address}/?kind=loop`);
  await page.waitForSelector('html[data-ready=yes]');
  await page.evaluate(startTap);
  await fitting(page);
  await clickToSound(page);
  await arrowHeld(page, browser);
  await randomActs(page);
  await clicksOnTones(page);
  if (minutes > 0) await manyTracks(page, address, minutes);
  await browser.close();
}

/** A loop of 8 s fitted in the worker. */
async function fitting(page) {
  const ms = await page.evaluate(async () => {
    const { engine } = window.garnetfinch,
      { rows } = await window.wholeRows('kind=loop'),
      found = rows.filter(
        ({ source }) => source.media === 'audio' && source.tempoBpm && source.beats && (source.beats * 60) / source.tempoBpm > 6,
      ),
      times = [];
    for (const row of found.slice(0, 12))
      for (const shiftSemitones of [0, 2]) {
        const { request } = engine.audition.fit(row.source, { shiftSemitones }),
          seconds = request.sourceFrames / 44100,
          target = { ...request, targetFrames: Math.round(request.sourceFrames * 1.07) };
        await engine.opened.pool.request({ ...target, targetFrames: target.targetFrames + 1 }, 0); // the sound is fetched with this one
        const from = performance.now();
        await engine.opened.pool.request(target, 0);
        times.push({ ms: ((performance.now() - from) / seconds) * 8, shifted: shiftSemitones !== 0 });
      }
    return times;
  });
  for (const shifted of [false, true]) {
    const part = ms.filter((each) => each.shifted === shifted).map((each) => each.ms);
    console.log(
      `a loop of 8 s fitted in the browser, ${shifted ? 'shifted too' : 'stretched'}: median ${quantile(part, 0.5).toFixed(0)} ms, 95 % ${quantile(part, 0.95).toFixed(0)} ms (${part.length})`,
    );
  }
}

/** From the click on a row to the first frame that is not silent, for a neighbour that is fitted already. */
async function clickToSound(page) {
  const times = await page.evaluate(async () => {
    const { engine } = window.garnetfinch,
      { rows } = await window.wholeRows('kind=loop&family=drums'),
      found = [];
    engine.audition.setSettings({ startOn: 'now' });
    for (const row of rows.slice(0, 12)) {
      await engine.opened.pool.request(engine.audition.fit(row.source).request, 2);
      const at = engine.context.currentTime * 44100;
      await engine.audition.start(row);
      const starts = window.starts.at(-1);
      found.push((starts.frame - at) / 44.1);
      await new Promise((resolve) => setTimeout(resolve, 250));
      engine.audition.stop();
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    return found;
  });
  console.log(
    `click to sound of a fitted neighbour, on the audio clock: median ${quantile(times, 0.5).toFixed(1)} ms, 95 % ${quantile(times, 0.95).toFixed(1)} ms (${times.length})`,
  );
}

/**
 * Tasks of the page's main thread in a trace, in ms: how long each took, and how much of that the thread had a core for. The rest it waited
 * while others of the machine ran.
 */
function mainThreadTasks(trace) {
  const { traceEvents } = JSON.parse(trace.toString()),
    main = traceEvents
      .filter(({ name, args }) => name === 'thread_name' && args.name === 'CrRendererMain')
      .map(({ pid, tid }) => `${pid} ${tid}`),
    tasks = traceEvents.filter(({ name, pid, tid, dur }) => name.endsWith('RunTask') && dur > 0 && main.includes(`${pid} ${tid}`));
  return tasks.map(({ dur, tdur }) => ({ ms: dur / 1000, coreMs: (tdur ?? 0) / 1000 }));
}

/** The arrow held for 40 rows at 8 rows a second, while the project plays. */
async function arrowHeld(page, browser) {
  await page.evaluate(() => {
    window.garnetfinch.engine.audition.setSettings({ startOn: 'bar' });
    return window.garnetfinch.engine.play();
  });
  await page.locator('[data-loop-list]').focus();
  await page.evaluate(() => {
    window.longTasks = [];
    window.wrong = 0;
    window.watching = setInterval(() => {
      // What sounds is either what was asked for last, or what sounded before it: never one in between.
      const { candidate } = window.garnetfinch.engine.store.getState(),
        current = window.garnetfinch.engine.opened.candidate.current;
      if (candidate && current && candidate.phase === 'sounding' && current.fitted.request.soundSha !== candidate.fitted.request.soundSha)
        window.wrong++;
    }, 20);
  });
  await browser.startTracing(page, { categories: ['toplevel'] });
  for (let row = 0; row < 40; row++) {
    await page.keyboard.press('ArrowDown');
    await page.waitForTimeout(125);
  }
  const tasks = mainThreadTasks(await browser.stopTracing());
  await page.waitForFunction(() => window.garnetfinch.engine.store.getState().candidate?.phase === 'sounding', null, { timeout: 30_000 });
  const { wrong, long } = await page.evaluate(() => {
    clearInterval(window.watching);
    return { wrong: window.wrong, long: window.longTasks };
  });
  console.log(
    `the arrow held for 40 rows: a wrong candidate in ${wrong} looks; tasks over 50 ms on the main thread: ${long.length}${long.length ? `, the longest ${Math.max(...long)} ms` : ''}; the longest by the time it had a core: ${Math.max(...tasks.map(({ coreMs }) => coreMs)).toFixed(0)} ms, of ${tasks.length} tasks`,
  );
}

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
async function randomActs(page) {
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
async function clicksOnTones(page) {
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
async function manyTracks(page, address, minutes) {
  const created = await page.request.post(`${address}/api/v1/projects`, {
    form: { intent: 'create', name: `Sixty-four tracks ${Date.now()}`, tempo: '118.7', key: '9m', meter: '4/4', stay: '1' },
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
