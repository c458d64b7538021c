// npm run screenshots [-- ADDRESS]: the pictures of docs/screenshots, of a running application with the demo library.
import { mkdirSync } from 'node:fs';
import { openBrowser } from './lib/browser.mjs';
import { at } from './lib/paths.mjs';

const address = process.argv[2] ?? `http://127.0.0.1:${process.env.PORT ?? 3000}`,
  dir = at('docs/screenshots');
mkdirSync(dir, { recursive: true });
const browser = await openBrowser(),
  context = await browser.newContext({ viewport: { width: 1280, height: 800 } }),
  page = await context.newPage();
const shot = async (name) => {
  await page.waitForTimeout(900);
  await page.screenshot({ path: `${dir}/${name}.png` });
};
/** A phone of the same person beside the room. */
const remote = async () => {
  const phone = await context.newPage();
  await phone.setViewportSize({ width: 390, height: 844 });
  await phone.goto(`${address}/remote`);
  await phone.getByRole('button', { name: 'Keep' }).waitFor();
  await phone.waitForTimeout(900);
  await phone.screenshot({ path: `${dir}/remote.png` });
  await phone.close();
};
const settled = () => page.waitForFunction(() => window.garnetfinch?.engine.store.getState().fittingCount === 0, null, { timeout: 60_000 });

await page.goto(`${address}/sign-in`);
await page.getByRole('button', { name: 'Ines Marlowe' }).click();
await page.waitForSelector('html[data-ready=yes]');
await page.getByLabel('Project in the room').selectOption({ label: 'Engine Room' });
await page.getByRole('region', { name: 'Project', exact: true }).getByRole('link', { name: 'Engine Room' }).waitFor();
await page.waitForURL(/in=\d/);
/** Every page with the same project in the room. */
const room = new URL(page.url()).searchParams.get('in');
await page.goto(`${address}/?in=${room}&family=keys&family=bass&tempo=80-126&sort=fit&dir=desc`);
await page.waitForSelector('html[data-ready=yes]');
await page.keyboard.press('Space');
await settled();
await page.locator('[data-loop-list]').focus();
for (let n = 0; n < 6; n++) {
  await page.keyboard.press('ArrowDown');
  await page.waitForTimeout(250);
}
await page.waitForFunction(() => window.garnetfinch.engine.store.getState().candidate?.phase === 'sounding', null, { timeout: 30_000 });
await shot('library');
await page.keyboard.press('k');
for (let n = 0; n < 2; n++) {
  await page.keyboard.press('ArrowDown');
  await page.waitForFunction(() => window.garnetfinch.engine.store.getState().candidate?.phase === 'sounding', null, { timeout: 30_000 });
  await page.keyboard.press('k');
}
await remote();
await page.keyboard.press('b');
await page.keyboard.press('2');
await page.waitForFunction(() => window.garnetfinch.engine.store.getState().candidate?.phase === 'sounding', null, { timeout: 30_000 });
await shot('blind');
await page.keyboard.press('b');
await page.locator('[data-loop-list]').focus();
await page.keyboard.press('Enter');
await shot('place');
await page.keyboard.press('Escape');
await page.keyboard.press('Space');
await page.goto(`${address}/?in=${room}&view=map`);
await page.waitForSelector('html[data-ready=yes]');
await page.getByRole('application', { name: /^Map of the result/ }).focus();
await page.keyboard.press('ArrowDown');
await page.waitForTimeout(600);
await shot('library-map');
await page.goto(`${address}/?in=${room}&q=electric+piano+dorian`);
await page.waitForSelector('html[data-ready=yes]');
await page
  .locator('[role=row][id^=loop-]')
  .filter({ has: page.getByLabel('audio') })
  .first()
  .getByRole('link')
  .click();
await page.locator('[data-fact=key] summary').click();
await page.locator('#page').evaluate((element) => element.scrollTo(0, 0));
await shot('loop');
await page.getByRole('heading', { name: 'What is heard in it' }).evaluate((element) => element.scrollIntoView());
await shot('loop-heard');
await page.goto(`${address}/?in=${room}&family=drums&sort=title&dir=asc`);
await page.waitForSelector('html[data-ready=yes]');
await page.locator('[data-loop-list]').focus();
await page.locator('#loop-1').click({ modifiers: ['ControlOrMeta'] });
await page.locator('#loop-7').click({ modifiers: ['Shift'] });
await page.getByRole('button', { name: 'Edit …' }).click();
await page.getByRole('combobox', { name: 'Change' }).selectOption('title');
await page.getByRole('textbox', { name: 'Pattern' }).fill('{instrument} {tempo} {n2}');
await page.getByText('would change').waitFor();
await shot('edit-many');
await page.keyboard.press('Escape');
await page.goto(`${address}/exchange?in=${room}&q=walking`);
await page.waitForSelector('html[data-ready=yes]');
await page.keyboard.press('Space');
await page
  .getByRole('button', { name: /^Hear / })
  .first()
  .click();
await page.waitForFunction(() => window.garnetfinch.engine.store.getState().candidate?.phase === 'sounding', null, { timeout: 60_000 });
await shot('exchange');
await page.keyboard.press('Space');
await page.goto(`${address}/packs?in=${room}`);
await page.waitForSelector('html[data-ready=yes]');
await page.locator('[data-batch]', { hasText: 'Harbour Sessions' }).getByRole('button', { expanded: false }).click();
await shot('packs');
await page.getByRole('link', { name: 'Evening Watch', exact: true }).first().click();
await page.getByRole('heading', { level: 1, name: 'Evening Watch' }).waitFor();
await page.getByRole('button', { name: /the demo mix/ }).click();
await page.locator('[data-demo=done]').waitFor({ timeout: 60_000 });
await page.waitForFunction(() => (document.querySelector('[data-demo] audio')?.currentTime ?? 0) > 2);
await page.getByRole('button', { name: /the demo mix/ }).click();
await shot('pack');
await page.goto(`${address}/packs/ear?in=${room}`);
await page.waitForSelector('html[data-ready=yes]');
await page.locator('[data-ear-list]').focus();
// The first: a tempo, which is checked by ear.
for (const key of ['ArrowDown', 'ArrowUp']) {
  await page.keyboard.press(key);
  await page.waitForTimeout(300);
}
await page.keyboard.press('x');
await page.getByRole('heading', { name: 'Check by ear' }).waitFor();
await shot('needs-an-ear');
await page.keyboard.press('Escape');
await page.goto(`${address}/projects?in=${room}`);
await shot('projects');
await page.getByRole('link', { name: 'Engine Room' }).first().click();
await page.waitForSelector('[data-clip]');
await page.getByRole('button', { name: 'Zoom to all' }).click();
await page
  .locator('[data-clip]')
  .nth(4)
  .click({ position: { x: 20, y: 30 } });
await shot('project');
/** The harmony of the piece; then notes of a project of its own, so that the demo stays as it is. */
await page.locator('[data-clip]').first().focus();
await page.keyboard.press('Escape');
await page.getByRole('button', { name: /^Harmony/ }).click();
await page.waitForTimeout(600);
await shot('project-harmony');
const piano = (
    await (await page.request.get(`${address}/api/v1/loops?q=electric+piano&limit=50&sort=title&dir=asc&in=none`)).json()
  ).rows.find(({ source }) => source.media === 'midi'),
  { id: sketch } = await (
    await page.request.post(`${address}/api/v1/projects`, {
      form: { intent: 'create', name: 'Sketch for Sunday', tempo: '112', key: '2m', meter: '4/4' },
    })
  ).json();
await page.goto(`${address}/projects/${sketch}`);
await page.waitForSelector('html[data-ready=yes]');
await page.evaluate(
  ({ loopId, title }) => {
    const clip = {
        kind: 'clip',
        id: 'keys',
        content: { kind: 'loop', loopId },
        startBeat: 0,
        lengthBeats: 32,
        offsetBeats: 0,
        gainDb: 0,
        fadeInBeats: 0,
        fadeOutBeats: 0,
        muted: false,
        landsAfterBeats: null,
        shiftSemitones: 0,
        followTempo: true,
        followKey: true,
        chordWay: null,
        shiftMarks: null,
        overrides: {},
      },
      track = {
        kind: 'track',
        id: 'keys',
        name: title,
        colour: 2,
        gainDb: -4,
        pan: 0,
        muted: false,
        soloed: false,
        setAside: false,
        clips: [clip],
      };
    window.garnetfinch.projectStore.edit({ kind: 'add-track', index: 0, track });
    window.garnetfinch.projectStore.edit({
      kind: 'set-chords',
      chords: ['Dm', 'B♭', 'Gm7', 'A7', 'Dm', 'F', 'Gm', 'A7'].map((symbol, bar) => ({ startBeat: bar * 4, symbol })),
    });
  },
  { loopId: piano.id, title: piano.title },
);
await page.waitForTimeout(500);
await page.reload();
await page.waitForSelector('[data-clip]');
await page.locator('[data-clip]').first().focus();
await page.keyboard.press('p');
await page.waitForSelector('[data-roll]');
await page.getByLabel('How it goes with the chords').selectOption('roots');
await shot('project-notes');
/** A line on the bench, drawn over its notes. */
const { rows: flutes } = await (await page.request.get(`${address}/api/v1/loops?q=flute&kind=loop&limit=1&sort=title&in=none`)).json();
await page.goto(`${address}/workbench/${flutes[0].id}?in=${room}`);
for (const step of [/^Clean/, /^Notes of a line/]) {
  await page.waitForSelector('[data-bench=ready]');
  await page.getByRole('button', { name: 'Add' }).click();
  await page.getByRole('menuitem', { name: step }).click();
}
await page.waitForSelector('[data-bench=ready]');
await shot('workbench');
await page.goto(`${address}/people?in=${room}`);
await shot('people');
await page.context().addCookies([{ name: 'theme', value: 'dusk', url: address }]);
await page.goto(`${address}/?in=${room}`);
await page.waitForSelector('html[data-ready=yes]');
await page.locator('[data-loop-list]').focus();
for (let n = 0; n < 3; n++) await page.keyboard.press('ArrowDown');
await shot('library-dusk');
await browser.close();
