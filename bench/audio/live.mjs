// The engine in Chromium, heard by a tap on the audio thread; see `npm run bench:audio -- --live ADDRESS`.
import { openBrowser } from '../../scripts/lib/browser.mjs';
import { clicksOnTones, manyTracks, randomActs } from './live-load.mjs';
import { quantile, startTap, wholeRowsInPage, watch } from './live-tap.mjs';

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
  await page.waitForURL(/in=\d/);
  await page.goto(`${address}/?kind=loop&in=${new URL(page.url()).searchParams.get('in')}`);
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
