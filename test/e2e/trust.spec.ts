import { inRoom } from '../../contracts/room-address';
import { expect, type Page } from '@playwright/test';
import { createRandom } from '../../core/synth/random';
import { noOverrides } from '../../core/arrangement/fit-settings';
import { writeSmf } from '../../core/formats/smf/write';
import {
  accounts,
  comeIn,
  correct,
  createProject,
  importFiles,
  originOf,
  readTap,
  signIn,
  startTap,
  test,
  visit,
  waitForFits,
  waitForFrame,
  wholeRows,
} from './support';

/** How many candidates are tried; more with PLACED_IS_HEARD=60, of which 20 play once. */
const tries = Number(process.env.PLACED_IS_HEARD ?? 5);

/** A project of its own, empty, in the room. */
async function emptyProject(page: Page, name: string, tempo: number, key: string): Promise<void> {
  const made = await page.request.post('/api/v1/projects', { form: { name, tempo: String(tempo), key } });
  expect(made.ok()).toBe(true);
  await visit(page, inRoom('/', ((await made.json()) as { id: number }).id));
  await page.waitForFunction(
    (wanted) => (window.garnetfinch.projectStore.store.getState().project as { name: string } | null)?.name === wanted,
    name,
  );
}

/** A stab and a run of notes as MIDI files: one plays once and has no tempo, the other may. */
async function importShots(page: Page): Promise<string> {
  const pack = `Shots ${Date.now()}`,
    notes = (many: number) =>
      Array.from({ length: many }, (_, k) => ({ pitch: 50 + 3 * k, velocity: 100, startBeat: k / 2, lengthBeats: 0.5, channel: 0 })),
    file = (many: number) =>
      writeSmf({ tempoBpm: 100, meter: '4/4', name: pack, program: 0, lengthBeats: (many + 1) / 2, notes: notes(many) }),
    ids = await importFiles(page.request, pack, [
      { path: 'Stab.mid', bytes: file(1) },
      { path: 'Run up.mid', bytes: file(5) },
    ]);
  await correct(page.request, ids.get('Stab.mid') as number, 'kind', 'one-shot');
  await correct(page.request, ids.get('Run up.mid') as number, 'kind', 'phrase');
  return pack;
}

interface Tried {
  readonly settings: object;
  readonly overrides: object;
}

test('what was heard as a candidate is what is placed: every switch, treatment and level', { tag: '@alone' }, async ({ page }) => {
  test.setTimeout(120_000 + tries * 40_000);
  await comeIn(page);
  const random = createRandom(42),
    pick = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)],
    shots = await importShots(page),
    rows = (
      await Promise.all(
        [
          '/api/v1/loops?kind=loop&sort=title',
          '/api/v1/loops?kind=one-shot&kind=phrase&sort=title',
          '/api/v1/loops?kind=loop&q=midi&sort=title',
          '/api/v1/loops?instrument=riser&sort=title',
          `/api/v1/loops?q=${encodeURIComponent(shots)}&sort=title`,
        ].map(
          async (address) =>
            (await wholeRows(page.request, address.split('?')[1])) as { id: number; title: string; source: { tempoBpm: number | null } }[],
        ),
      )
    ).map((list) => list.filter(({ source }) => source.tempoBpm === null || source.tempoBpm > 80));
  expect(rows.every((list) => list.length > 0)).toBe(true);
  await emptyProject(page, `Heard ${Date.now()}`, 118, '2m');
  await startTap(page);
  // Loops of sound and of notes; of what plays once, a third of all: shots and phrases, risers, and notes.
  const groups = [0, 3, 1, 4, 2, 0, 0, 0, 2, 0, 1, 0];
  for (let k = 0; k < tries; k++) {
    const row = pick(rows[groups[k % groups.length]]),
      tried: Tried = {
        settings: {
          fitTempo: random() < 0.7,
          fitKey: random() < 0.7,
          evenLevel: random() < 0.7,
          gainDb: pick([-6, 0, 3]),
          startOn: 'bar',
          lowCut: false,
          mono: false,
          heardWith: 'project',
        },
        overrides: {
          shiftSemitones: pick([0, 0, 5, -3]),
          speedRatio: pick([1, 1, 2]),
          reverse: random() < 0.2,
          stretchMode: pick([null, null, 'plain']),
        } satisfies Partial<typeof noOverrides>,
      },
      seconds = 1.2,
      length = Math.round(seconds * 44100);
    await page.evaluate(() => {
      window.garnetfinch.engine.stop();
      window.tapBlocks.length = 0;
    });
    await page.evaluate(
      async ([wanted, { settings, overrides }]) => {
        const { engine } = window.garnetfinch;
        engine.audition.setSettings(settings);
        await engine.play();
        await (engine.audition as unknown as { hear(wish: object): Promise<void> }).hear({
          row: wanted,
          overrides,
          offsetBeats: 0,
        });
      },
      [row, { ...tried, overrides: { ...noOverrides, ...tried.overrides } }] as const,
    );
    await page.waitForFunction(() => window.garnetfinch.engine.audition.current !== null, null, { timeout: 60_000 });
    const heardFrom = await page.evaluate(() => window.garnetfinch.engine.audition.current?.originFrame ?? 0);
    await waitForFrame(page, heardFrom + length + 2000);
    const heard = await readTap(page, heardFrom, heardFrom + length);
    // Placed by the dialog, at bar 5: what rises lands there, and begins before.
    await page.getByRole('button', { name: 'Place …' }).click();
    const dialog = page.getByRole('dialog', { name: /^Place/ });
    await dialog.getByLabel(/bar$/i).first().fill('5');
    await dialog.getByRole('button', { name: 'Place', exact: true }).click();
    await expect(dialog).toBeHidden();
    await page.evaluate(() => {
      window.garnetfinch.engine.stop();
      window.tapBlocks.length = 0;
    });
    await waitForFits(page);
    const clip = await page.evaluate(() => {
        const { tracks } = window.garnetfinch.projectStore.store.getState().project as {
          tracks: { clips: { startBeat: number; lengthBeats: number }[] }[];
        };
        return tracks[0].clips[0];
      }),
      lands = await page.evaluate(() => document.body.innerText.includes('Lands at bar'));
    expect(lands).toBe(false);
    // From the beat line before it.
    const fromBeat = Math.max(0, Math.floor(clip.startBeat) - 1);
    await page.evaluate(async (beat) => {
      const { engine } = window.garnetfinch;
      (engine as unknown as { seek(beat: number): void }).seek(beat);
      await engine.play();
    }, fromBeat);
    const { originFrame } = await originOf(page),
      placedFrom = originFrame + Math.round(((clip.startBeat - fromBeat) * 60 * 44100) / 118);
    await waitForFrame(page, placedFrom + length + 4000);
    // What lands may begin between frames: the nearest place within a frame counts.
    let best = Infinity;
    for (const shift of [-1, 0, 1]) {
      const placed = await readTap(page, placedFrom + shift, placedFrom + shift + length);
      best = Math.min(best, differenceDb(heard, placed));
    }
    expect(levelOf(heard), row.title).toBeGreaterThan(-70);
    expect(best, `${row.title} ${JSON.stringify(tried)}`).toBeLessThan(-60);
    await page.evaluate(() => {
      window.garnetfinch.engine.stop();
      const { tracks } = window.garnetfinch.projectStore.store.getState().project as { tracks: { id: string }[] };
      for (const { id } of tracks) window.garnetfinch.projectStore.edit({ kind: 'remove-track', trackId: id });
    });
  }
});

/** What is left when one is taken from the other, against the one; the first frames, where each fades in in its own way, are left out. */
function differenceDb(one: readonly Float32Array[], other: readonly Float32Array[]): number {
  let left = 0,
    power = 1e-12;
  one.forEach((plane, channel) => {
    for (let i = 600; i < plane.length; i++) {
      left += (plane[i] - other[channel][i]) ** 2;
      power += plane[i] ** 2;
    }
  });
  return 10 * Math.log10(left / power + 1e-12);
}
const levelOf = (planes: readonly Float32Array[]): number =>
  10 * Math.log10(planes.reduce((sum, plane) => sum + plane.reduce((power, value) => power + value * value, 0) / plane.length, 1e-12));

test('a drag of a slider is one change, and one step back takes it away', async ({ page }) => {
  await comeIn(page);
  await emptyProject(page, `Sliders ${Date.now()}`, 120, 'none');
  const id = await page.evaluate(() => window.garnetfinch.projectStore.store.getState().id);
  await visit(page, `/projects/${id}`);
  const sent: unknown[] = [];
  page.on('request', (request) => {
    // What others did is asked for at the same address.
    if (request.url().endsWith('/edits') && request.method() === 'POST') sent.push(request.postDataJSON());
  });
  const slider = page.getByRole('slider', { name: /Master/ }),
    box = await slider.boundingBox();
  if (!box) throw new Error('no slider');
  await page.mouse.move(box.x + box.width * 0.8, box.y + box.height / 2);
  await page.mouse.down();
  for (let x = 0.75; x > 0.3; x -= 0.02) await page.mouse.move(box.x + box.width * x, box.y + box.height / 2);
  await page.mouse.up();
  const master = () =>
    page.evaluate(() => (window.garnetfinch.projectStore.store.getState().project as { masterGainDb: number }).masterGainDb);
  await expect.poll(master).toBeLessThan(-5);
  await expect.poll(() => sent).toHaveLength(1);
  await page.keyboard.press('Escape');
  await page.evaluate(() => (window.garnetfinch.projectStore as unknown as { undo(): void }).undo());
  expect(await master()).toBe(0);
});

test('no page breaks its own rules: nothing that is refused is loaded or run, and sound is heard', async ({ browser, baseURL }) => {
  const context = await browser.newContext({ baseURL, bypassCSP: false }),
    page = await context.newPage(),
    refused: string[] = [];
  page.on('console', (message) => {
    if (/Content Security Policy|refused to/i.test(message.text())) refused.push(message.text());
  });
  await comeIn(page);
  for (const address of ['/packs', '/packs/ear', '/people', '/projects', '/diagnostics', '/?kind=loop']) await visit(page, address);
  await page.evaluate(async () => {
    const found = (await (await fetch('/api/v1/loops?kind=loop&family=keys')).json()) as { rows: { id: number }[] },
      { rows } = (await (await fetch(`/api/v1/loops?id=${found.rows[0].id}`)).json()) as { rows: unknown[] };
    await window.garnetfinch.engine.play();
    await window.garnetfinch.engine.audition.start(rows[0]);
  });
  await page.waitForFunction(() => window.garnetfinch.engine.store.getState().candidate?.phase === 'sounding', null, { timeout: 60_000 });
  expect(refused).toEqual([]);
  await context.close();
});

test('news end with the session', async ({ page }) => {
  await signIn(page, accounts[2]);
  await page.evaluate(
    () =>
      new Promise<void>((open) => {
        const source = new EventSource('/events');
        (window as unknown as { news: EventSource }).news = source;
        source.onopen = () => open();
      }),
  );
  await page.evaluate(() => fetch('/sign-out', { method: 'POST', redirect: 'manual' }).then(() => undefined));
  // A stream that ends is asked for again, and a stranger gets none: closed for good.
  await page.waitForFunction(() => (window as unknown as { news: EventSource }).news.readyState === 2, null, { timeout: 30_000 });
});

test('what names nothing answers 400 or 404, whatever stands there', async ({ page }) => {
  await signIn(page);
  const absurd = ['0', '-1', '1.5', '99999999999', '1e3', 'NaN', '%00', 'a'],
    statuses: [string, number][] = [];
  for (const id of absurd)
    for (const address of [
      `/loops/${id}`,
      `/projects/${id}`,
      `/media/file/${id}`,
      `/media/export/${id}`,
      `/media/sound/${id}`,
      `/api/v1/loops/${id}/notes`,
      `/api/v1/loops?id=${id}`,
      `/api/v1/loops?offset=${id}`,
      `/api/v1/loops?pack=${id}&bars=${id}&tempo=${id}-${id}`,
      `/api/v1/imports?batch=${id}`,
      `/api/v1/imports?batch=1&offset=${id}`,
      `/?pack=${id}`,
      `/packs?show=${id}`,
      `/packs/ear?show=${id}`,
    ])
      statuses.push([address, (await page.request.get(address)).status()]);
  for (const id of absurd) {
    for (const address of [
      `/api/v1/loops/${id}/favourite`,
      `/api/v1/loops/${id}/tags/x`,
      `/api/v1/loops/1/facts/${id}`,
      '/api/v1/loops/archived',
      `/api/v1/packs/${id}/archived`,
      `/api/v1/twins/${id}`,
    ])
      statuses.push([address, (await page.request.put(address, { form: { loopId: id } })).status()]);
    for (const [address, form] of [
      ['/api/v1/imports', { intent: 'start', batchId: id }],
      ['/api/v1/projects', { intent: 'enter', projectId: id }],
      ['/api/v1/projects', { intent: 'from-loop', loopId: id }],
      [`/api/v1/projects/${id}/exports`, { bits: '16', rateHz: '44100' }],
    ] as const)
      statuses.push([`${address} ${id}`, (await page.request.post(address, { form, maxRedirects: 0 })).status()]);
    for (const body of ['{', '[]', '{"revision":0,"edits":[[[[]]]]}', `{"revision":${id},"edits":[]}`])
      statuses.push([
        `edits ${id} ${body}`,
        (await page.request.post(`/api/v1/projects/${id}/edits`, { data: body, headers: { 'Content-Type': 'application/json' } })).status(),
      ]);
  }
  expect(statuses.filter(([, status]) => status >= 500)).toEqual([]);
});

test('steps that do not fit are refused in the words and the shape of every refusal', async ({ page }) => {
  await comeIn(page);
  const id = await createProject(page, `Refused ${Date.now()}`, 120),
    answer = await page.request.post(`/api/v1/projects/${id}/edits`, {
      data: { revision: 0, steps: [{ stepId: `gone-${id}`, edit: { kind: 'remove-track', trackId: 'gone' } }] },
    });
  expect(answer.status()).toBe(422);
  expect(answer.headers()['content-type']).toBe('application/problem+json');
  expect(await answer.json()).toMatchObject({
    status: 422,
    detail: 'That track is no longer there.',
    revision: 0,
    steps: [],
    refused: [{ stepId: `gone-${id}` }],
  });
});

test('more than a form can hold is not taken into memory', async ({ page }) => {
  const answer = await page.request.post('/sign-in', {
    data: Buffer.alloc(2 * 2 ** 20),
    headers: { 'Content-Type': 'application/x-www-form-urlencoded' },
  });
  expect(answer.status()).toBe(413);
});

test('a member neither adds people nor archives what others brought in', async ({ page }) => {
  await comeIn(page, accounts[1]);
  const { rows } = (await (await page.request.get('/api/v1/loops?sort=title')).json()) as {
      rows: { id: number; packId: number; addedBy: string }[];
    },
    theirs = rows.find(({ addedBy }) => addedBy !== accounts[1].name);
  expect((await page.request.put('/api/v1/loops/archived', { form: { loopId: String(theirs?.id) } })).status()).toBe(403);
  expect((await page.request.put(`/api/v1/packs/${theirs?.packId}/archived`)).status()).toBe(403);
  expect((await page.request.delete(`/api/v1/packs/${theirs?.packId}`)).status()).toBe(403);
  expect((await page.request.post('/people', { form: { name: 'Sneaked in', password: 'a long password' } })).status()).toBe(403);
  await visit(page, '/people');
  await expect(page.getByText('A keeper can add people')).toBeVisible();
});
