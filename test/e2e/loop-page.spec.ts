import { beatWav, bringIn } from './brought';
import { expect } from '@playwright/test';
import { comeIn, test, visit } from './support';

test('a loop’s page shows what is heard in it, in pictures with words, and follows a correction', async ({ page }) => {
  await comeIn(page);
  await page.goto('/?q=electric+piano+dorian');
  await page
    .locator('[role=row][id^=loop-]')
    .filter({ hasText: 'Electric Piano', has: page.getByLabel('audio') })
    .first()
    .getByRole('link')
    .click();
  await expect(page.getByRole('heading', { name: 'What is heard in it' })).toBeVisible();
  await expect(page.getByRole('img', { name: /^Waveform: bar 1 begins at .* bars end at/ })).toBeVisible();
  await expect(page.getByRole('img', { name: /^Pulse by tempo; chosen \d/ })).toBeVisible();
  await expect(page.getByRole('img', { name: /^Accents by step of the bar/ })).toBeVisible();
  await expect(page.getByRole('img', { name: /^Circle of fifths: [A-G].* percent/ })).toBeVisible();
  await expect(page.getByRole('img', { name: /^Chords by bar: bar 1 / })).toBeVisible();
  await expect(page.getByLabel('Families of instruments')).toContainText('%');
  const tempo = page.locator('[data-fact=tempo]'),
    before = Number(await tempo.locator('[data-value]').textContent());
  const bars = await page.getByRole('img', { name: /^Waveform: bar 1/ }).getAttribute('aria-label');
  await tempo.getByRole('button', { name: new RegExp(`^${String(before * 2).replace('.', '\\.')}`) }).click();
  await expect(tempo.locator('[data-value]')).toHaveText(String(before * 2));
  await expect(page.getByRole('img', { name: new RegExp(`^Pulse by tempo; chosen ${(before * 2).toFixed(1)}`) })).toBeVisible();
  await expect(page.getByRole('img', { name: /^Waveform: bar 1/ })).not.toHaveAttribute('aria-label', bars ?? '');
  await tempo.getByRole('button', { name: 'take back' }).click();
  await expect(tempo.locator('[data-value]')).toHaveText(String(before));
  // The downbeat moves by a beat, and the bars that are left are drawn at once.
  const start = page.locator('[data-fact=start]'),
    heardStart = (await start.locator('[data-value]').textContent()) ?? '';
  await start.getByRole('button', { name: 'a beat later' }).click();
  await expect(start.locator('[data-value]')).toHaveText(/^\d+\.\d{3} s in$/);
  await expect(start).toContainText('corrected by');
  await expect(page.getByRole('img', { name: /^Waveform: bar 1 begins at (?!0\.0)/ })).toBeVisible();
  await start.getByLabel('Another start of bar 1, in seconds').fill('999');
  await start.getByRole('button', { name: 'set' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'Bar 1 has to begin inside the sound' })).toBeVisible();
  const said = (await start.locator('[data-value]').textContent()) ?? '';
  await start.getByRole('button', { name: 'take back' }).click();
  await expect(start.locator('[data-value]')).toHaveText(heardStart);
  // Taken back by a slip of the hand, the word is there again.
  await page.getByRole('button', { name: 'Undo', exact: true }).last().click();
  await expect(start.locator('[data-value]')).toHaveText(said);
  await start.getByRole('button', { name: 'take back' }).click();
  await expect(start.locator('[data-value]')).toHaveText(heardStart);
});

test('the melody of a single voice is drawn as notes, and a MIDI file’s page shows what is written in it', async ({ page }) => {
  await comeIn(page);
  const open = async (query: string, media: 'audio' | 'notes') => {
    await page.goto(`/?q=${query}`);
    await page
      .locator('[role=row][id^=loop-]')
      .filter({ has: page.getByLabel(media) })
      .first()
      .getByRole('link')
      .click();
  };
  await open('lead+riff', 'audio');
  await expect(page.getByRole('heading', { name: 'What is heard in it' })).toBeVisible();
  await expect(page.getByRole('img', { name: /^Melody of \d+ notes: [A-G]/ })).toBeVisible();
  await expect(page.getByText('end to start')).toBeVisible();
  await open('piano+chords', 'notes');
  await expect(page.getByRole('heading', { name: 'What is written in it' })).toBeVisible();
  await expect(page.getByRole('img', { name: /^Accents by step of the bar/ })).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Level' })).toHaveCount(0);
});

test('needs an ear: by keys alone, hear, answer, agree with several, and take it back', async ({ page }) => {
  await comeIn(page);
  // A pack of its own: what is in doubt elsewhere, others answer at the same time.
  const packId = await bringIn(
    page,
    `Knocks ${Date.now().toString(36)}`,
    Array.from({ length: 12 }, (_, k) => ({ path: `Knock ${k}.wav`, bytes: beatWav(70 + 5 * k, 4, 300 + 40 * k, 0.03) })),
  );
  await visit(page, '/packs');
  await page.getByRole('link', { name: /Needs an ear/ }).click();
  await expect(page.locator('[data-ear-list]')).toBeVisible();
  await visit(page, `/packs/ear?pack=${packId}`);
  const list = page.locator('[data-ear-list]'),
    rows = list.getByRole('row');
  await expect(rows.first()).toBeVisible();
  const count = async () => Number(/(\d+) facts in doubt/.exec((await page.getByText(/facts in doubt/).textContent()) ?? '')?.[1]);
  await list.focus();
  // Of tempo or key, for there is nothing to compare a kind with.
  const names = await rows.evaluateAll((all) => all.map(({ id }) => id)),
    place = names.findIndex((id, k) => k > 0 && /-(tempo|key)$/.test(id));
  expect(place).toBeGreaterThan(0);
  for (let k = 0; k < place; k++) await page.keyboard.press('ArrowDown');
  await page.waitForFunction(() => window.garnetfinch.engine.store.getState().candidate?.phase === 'sounding');
  // Somebody else answers one above: one stays where one is, and so does what is heard.
  await page.request.put('/api/v1/facts/agreed', { form: { fact: names[0].replace('doubt-', '') } });
  await expect(page.locator(`#${names[0]}`)).toHaveCount(0);
  await expect(list).toHaveAttribute('aria-activedescendant', names[place]);
  const before = await count();
  // The second answer of it: the next one moves up and sounds by itself.
  const asked = names[place],
    [, loopId, attribute] = /doubt-(\d+)-(\w+)/.exec(asked) ?? [],
    next = Number(/doubt-(\d+)-/.exec(names[place + 1] ?? '')?.[1]);
  // What it is compared with comes, and the loop goes on sounding.
  await expect(page.getByRole('heading', { name: 'Check by ear' })).toBeVisible();
  expect(await page.evaluate(() => window.garnetfinch.engine.store.getState().candidate?.phase)).toBe('sounding');
  await page.keyboard.press('2');
  await expect.poll(count).toBe(before - 1);
  await expect(page.locator(`#${asked}`)).toHaveCount(0);
  await expect.poll(() => page.evaluate(() => window.garnetfinch.engine.store.getState().candidate?.row.id)).toBe(next);
  await page.getByRole('button', { name: 'Undo', exact: true }).last().click();
  await expect.poll(count).toBe(before);

  await list.focus();
  await page.keyboard.press('x');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('x');
  await expect(page.getByRole('button', { name: 'Agree with 2 marked' })).toBeEnabled();
  await page.keyboard.press('Shift+Enter');
  await expect.poll(count).toBe(before - 2);

  // The person's word is on the loop's page.
  await list.focus();
  await page.keyboard.press('ArrowUp');
  const id = Number(/doubt-(\d+)-/.exec((await list.getAttribute('aria-activedescendant')) ?? '')?.[1]),
    fact = /doubt-\d+-(\w+)/.exec((await list.getAttribute('aria-activedescendant')) ?? '')?.[1];
  await page.keyboard.press('Enter');
  await expect.poll(count).toBe(before - 3);
  await page.goto(`/loops/${id}`);
  await expect(page.locator(`[data-fact=${fact}]`)).toContainText('corrected by');
  expect([loopId, attribute].every(Boolean)).toBe(true);
});
