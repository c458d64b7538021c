import { inRoom, roomOf } from '../../contracts/room-address';
import { readFileSync } from 'node:fs';
import { basename } from 'node:path';
import { Readable } from 'node:stream';
import { expect, request, test as base, type APIRequestContext, type BrowserContext, type Page } from '@playwright/test';
import { ZipFile } from 'yazl';
import { writeWav } from '../../core/formats/wav/write';

/** A test whose page must not throw: also what React has to say of a page that differs from what the server sent. */
export const test = base.extend<{ page: Page }>({
  page: async ({ page }, use) => {
    const thrown: string[] = [];
    // What the router asked for and no longer wants, since something newer was asked for, ends as aborted: no fault of the page.
    page.on('pageerror', ({ name, message }) => name !== 'AbortError' && thrown.push(`${page.url()}: ${message}`));
    await use(page);
    expect(thrown).toEqual([]);
  },
});

export const rateHz = 44100;
export interface Account {
  readonly name: string;
  readonly password: string;
}
export const accounts = JSON.parse(readFileSync('server/services/demo-accounts.json', 'utf8')) as Account[];
/** The demo's keeper, for what only a keeper may do. */
export const [keeper] = accounts;

const people = new Map<string, Promise<Account>>(),
  sessions = new Map<string, { testId: string; readonly cookies: Awaited<ReturnType<BrowserContext['cookies']>> }>();
/** A person of the spec's own, so that favourites, searches and rooms of one file are none of another's. */
function ownPerson(): Promise<Account> {
  const { file, project, parallelIndex } = test.info(),
    name = `${basename(file, '.spec.ts')} ${Date.now().toString(36)}${parallelIndex}`;
  let made = people.get(file);
  if (!made) {
    made = addPerson(project.use.baseURL ?? '', { name, password: `a password of ${name}` });
    people.set(file, made);
  }
  return made;
}

async function addPerson(baseURL: string, account: Account): Promise<Account> {
  const asKeeper = await request.newContext({ baseURL });
  await asKeeper.post('/sign-in', { form: { ...keeper }, maxRedirects: 0 });
  const answer = await asKeeper.post('/people', { form: { ...account } });
  expect(answer.status()).toBe(200);
  await asKeeper.dispose();
  return account;
}

/**
 * Signs a person in, without one the spec's own, and opens no page yet. A password takes half a second of the server's work, by intent: who signed in
 * for an earlier test comes back by that session, once a test.
 */
export async function comeIn(page: Page, person?: Account): Promise<Account> {
  const account = person ?? (await ownPerson()),
    { testId } = test.info(),
    earlier = sessions.get(account.name);
  // Two browsers of one test are two sessions.
  if (earlier && earlier.testId !== testId) {
    await page.context().addCookies(earlier.cookies);
    // Perhaps that test signed out.
    if ((await page.request.get('/api/v1/tags', { maxRedirects: 0 })).ok()) {
      earlier.testId = testId;
      return account;
    }
  }
  const answer = await page.request.post('/sign-in', { form: { ...account }, maxRedirects: 0 });
  expect(answer.status()).toBe(302);
  if (!earlier || earlier.testId !== testId) sessions.set(account.name, { testId, cookies: await page.context().cookies() });
  return account;
}

/** Signs a person in, without one the spec's own, and opens the Library. */
export async function signIn(page: Page, person?: Account): Promise<Account> {
  const account = await comeIn(page, person);
  await visit(page, '/');
  return account;
}

/** Opens a page with the project in the room that was there, and waits until it listens: a key that is pressed before that is lost. */
export async function visit(page: Page, address: string): Promise<void> {
  const room = page.url().startsWith('http') ? roomOf(new URL(page.url())) : undefined,
    saysRoom = roomOf(new URL(address, 'http://here.test')) !== undefined;
  await page.goto(room === undefined || saysRoom ? address : inRoom(address, room));
  await page.waitForSelector('html[data-ready=yes]');
}

/** Opens a project and waits until it stands there: left before that, the room would keep the one before. */
export async function openProject(page: Page, name: string): Promise<void> {
  await visit(page, '/projects');
  await page.locator('#page').getByRole('link', { name }).click();
  await page.waitForSelector('[data-clip]');
}

/** What the page shows to tests: the engine and the projectStore, with the parts that TypeScript calls private. */
export interface Inside {
  engine: {
    context: AudioContext;
    master: GainNode;
    transport: { originFrame: number; originBeat: number } | null;
    open(): Promise<void>;
    play(): Promise<void>;
    stop(): void;
    opened: { pool: { request(request: unknown, priority: number): Promise<AudioBuffer> } };
    audition: { current: { originFrame: number } | null; start(row: unknown): Promise<void>; setSettings(changes: object): void };
    store: { getState(): { candidate: { phase: string; row: { id: number } } | null; fittingCount: number } };
  };
  projectStore: {
    edit(edit: object, rows?: object[]): string | null;
    store: { getState(): { id: number; project: unknown; save: string } };
  };
}
declare global {
  interface Window {
    garnetfinch: Inside;
    tapBlocks: { frame: number; samples: Float32Array }[];
  }
}

/** Listens to the sum on the audio thread: every block with its frame. */
export async function startTap(page: Page): Promise<void> {
  await page.evaluate(async () => {
    const { engine } = window.garnetfinch;
    await engine.open();
    // `currentFrame` stands still for a block when the page holds the graph at that moment: blocks are counted.
    const code = `class Tap extends AudioWorkletProcessor {
      constructor() { super(); this.frame = -1; }
      process([input]) {
        this.frame = this.frame < 0 ? currentFrame : Math.max(this.frame + 128, currentFrame);
        const samples = new Float32Array(256);
        if (input.length) { samples.set(input[0]); samples.set(input[1] || input[0], 128); }
        this.port.postMessage({ frame: this.frame, samples }, [samples.buffer]);
        return true;
      }
    }
    registerProcessor('test-tap', Tap);`;
    await engine.context.audioWorklet.addModule(URL.createObjectURL(new Blob([code], { type: 'text/javascript' })));
    const tap = new AudioWorkletNode(engine.context, 'test-tap', { numberOfOutputs: 0 });
    window.tapBlocks = [];
    tap.port.onmessage = ({ data }) => window.tapBlocks.push(data as { frame: number; samples: Float32Array });
    engine.master.connect(tap);
  });
}

/** What was heard from one frame of the audio clock to another: left and right. Blocks that never ran are silence. */
export async function readTap(page: Page, fromFrame: number, toFrame: number): Promise<[Float32Array, Float32Array]> {
  const encoded = await page.evaluate(
    ([from, to]) => {
      const out = new Float32Array((to - from) * 2);
      for (const { frame, samples } of window.tapBlocks)
        for (let i = 0; i < 128; i++) {
          const at = frame + i - from;
          if (at >= 0 && at < to - from) {
            out[at] = samples[i];
            out[to - from + at] = samples[128 + i];
          }
        }
      const bytes = new Uint8Array(out.buffer);
      let text = '';
      for (let i = 0; i < bytes.length; i += 32768) text += String.fromCharCode(...bytes.subarray(i, i + 32768));
      return btoa(text);
    },
    [fromFrame, toFrame] as const,
  );
  const all = new Float32Array(Uint8Array.from(Buffer.from(encoded, 'base64')).buffer),
    length = toFrame - fromFrame;
  return [all.subarray(0, length), all.subarray(length)];
}

/** Waits on the audio clock, not on the wall's: a busy machine's sound may run late. */
export async function waitForFrame(page: Page, frame: number): Promise<void> {
  await page.waitForFunction((wanted) => window.garnetfinch.engine.context.currentTime * 44100 > wanted, frame, {
    timeout: 300_000,
    polling: 100,
  });
}

export async function originOf(page: Page): Promise<{ originFrame: number; originBeat: number }> {
  return page.evaluate(() => {
    const { transport } = window.garnetfinch.engine;
    if (!transport) throw new Error('not playing');
    return { originFrame: transport.originFrame, originBeat: transport.originBeat };
  });
}

export async function waitForFits(page: Page): Promise<void> {
  await page.waitForFunction(() => window.garnetfinch.engine.store.getState().fittingCount === 0, null, { timeout: 60_000 });
}

export async function zipOf(files: readonly { readonly path: string; readonly bytes: Uint8Array }[]): Promise<Buffer> {
  const zip = new ZipFile();
  for (const { path, bytes } of files) zip.addBuffer(Buffer.from(bytes), path);
  zip.end();
  const parts: Buffer[] = [];
  for await (const part of Readable.from(zip.outputStream)) parts.push(part as Buffer);
  return Buffer.concat(parts);
}

/** A mono 16-bit WAV of a function of time. */
export const wavOf = (seconds: number, at: (t: number) => number): Uint8Array =>
  writeWav(
    { sampleRateHz: rateHz, channels: [Float32Array.from({ length: Math.round(seconds * rateHz) }, (_, i) => at(i / rateHz))] },
    'int16',
  );

/** Imports files through the same addresses as the page, and waits until they are in. Returns loop ids by file name. */
export async function importFiles(
  request: APIRequestContext,
  packName: string,
  files: readonly { readonly path: string; readonly bytes: Uint8Array }[],
): Promise<Map<string, number>> {
  const opened = (await (await request.post('/api/v1/imports', { form: { intent: 'open', packName } })).json()) as { batchId: number };
  for (const { path, bytes } of files)
    expect(
      (await request.put(`/api/v1/imports/${opened.batchId}/files?path=${encodeURIComponent(path)}`, { data: Buffer.from(bytes) })).ok(),
    ).toBe(true);
  await request.post('/api/v1/imports', { form: { intent: 'start', batchId: String(opened.batchId) } });
  await expect
    .poll(
      async () =>
        ((await (await request.get('/api/v1/imports')).json()) as { batches: { id: number; state: string }[] }).batches.find(
          (batch) => batch.id === opened.batchId,
        )?.state,
      { timeout: 60_000 },
    )
    .toBe('done');
  const { files: lines } = (await (await request.get(`/api/v1/imports?batch=${opened.batchId}`)).json()) as {
    files: { path: string; loopId: number }[];
  };
  return new Map(lines.map((line) => [line.path, line.loopId]));
}

export async function correct(request: APIRequestContext, loopId: number, attribute: string, value: string): Promise<void> {
  expect((await request.put(`/api/v1/loops/${loopId}/facts/${attribute}`, { form: { value } })).ok()).toBe(true);
}

export async function rowOf(request: APIRequestContext, loopId: number): Promise<object> {
  return ((await (await request.get(`/api/v1/loops?id=${loopId}`)).json()) as { rows: object[] }).rows[0];
}

/** The rows that a search finds, in its order, with all that hearing them needs: lists come without. */
export async function wholeRows(request: APIRequestContext, query: string): Promise<{ id: number }[]> {
  const found = ((await (await request.get(`/api/v1/loops?${query}`)).json()) as { rows: { id: number }[] }).rows,
    whole = (
      (await (await request.get(`/api/v1/loops?${found.map(({ id }) => `id=${id}`).join('&')}`)).json()) as { rows: { id: number }[] }
    ).rows;
  return found.flatMap(({ id }) => whole.filter((row) => row.id === id));
}

/** Makes a project, which comes into the room of this session with the next page that is opened. */
export async function createProject(page: Page, name: string, tempo: number, key = 'none'): Promise<number> {
  const response = await page.request.post('/api/v1/projects', {
    form: { intent: 'create', name, tempo: String(tempo), key, meter: '4/4' },
  });
  return ((await response.json()) as { id: number }).id;
}

/** Makes a project, and opens the Library with it in the room. */
export async function makeProject(page: Page, name: string, tempo: number, key = 'none'): Promise<number> {
  const id = await createProject(page, name, tempo, key);
  await page.goto('/');
  await page.waitForSelector('html[data-ready=yes]');
  return id;
}

export const rms = (samples: ArrayLike<number>, from = 0, to = samples.length): number => {
  let sum = 0;
  for (let i = from; i < to; i++) sum += samples[i] * samples[i];
  return Math.sqrt(sum / Math.max(1, to - from));
};
export const toDb = (ratio: number): number => 20 * Math.log10(ratio + 1e-12);

/** Waits until nothing on the page moves or fades any more, two drawn frames long: what is looked at is what stays. */
export async function settled(page: Page): Promise<void> {
  await page.evaluate(async () => {
    const drawn = () => new Promise((next) => requestAnimationFrame(next));
    for (let still = 0; still < 2;) {
      const moving = document
        .getAnimations()
        .filter((each) => each.playState === 'running' && each.effect?.getComputedTiming().endTime !== Infinity);
      await Promise.allSettled(moving.map((each) => each.finished));
      await drawn();
      still = moving.length === 0 ? still + 1 : 0;
    }
  });
}
