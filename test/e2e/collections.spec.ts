import { expect } from '@playwright/test';
import { loopFor } from './piece';
import { comeIn, test, visit } from './support';

test('a collection is ordered by keys: the order is kept, the focus stays with its loop, and what comes in stands behind', async ({
  page,
}) => {
  await comeIn(page);
  const name = `In turn ${Date.now()}`,
    [shaker, tambourine, later] = [
      await loopFor(page, 'Shaker 62 A'),
      await loopFor(page, 'Tambourine 62 A'),
      await loopFor(page, 'Conga 62 A'),
    ],
    collect = async (...loops: readonly { id: number }[]) => {
      const change = { kind: 'collection', name, isWanted: true },
        answer = await page.request.post('/api/v1/changes', { data: { selection: { ids: loops.map(({ id }) => id) }, change } });
      expect(answer.ok(), await answer.text()).toBe(true);
      const { id } = (await answer.json()) as { id: number };
      // A job does it.
      await expect
        .poll(async () => {
          const { changes } = (await (await page.request.get('/api/v1/changes')).json()) as { changes: { id: number; state: string }[] };
          return changes.find((each) => each.id === id)?.state;
        })
        .toBe('done');
    };
  await collect(shaker);
  await visit(page, '/collections');
  await page.getByRole('link', { name }).click();
  const lines = page.getByRole('region', { name }).getByRole('listitem'),
    show = (titles: readonly string[]) => expect(lines.getByRole('link')).toHaveText([...titles]),
    hear = (title: string) => lines.getByRole('button', { name: `Hear ${title}`, exact: true });
  await show([shaker.title]);
  // Put in by somebody else, or in another tab, it is there without asking, behind the others.
  await collect(tambourine);
  await show([shaker.title, tambourine.title]);
  const kept = page.waitForResponse((response) => response.request().method() === 'PUT' && response.url().endsWith('/order'));
  await hear(shaker.title).focus();
  await page.keyboard.press('Alt+ArrowDown');
  await show([tambourine.title, shaker.title]);
  await expect(hear(shaker.title)).toBeFocused();
  expect((await kept).ok()).toBe(true);
  await page.reload();
  await page.waitForSelector('html[data-ready=yes]');
  await show([tambourine.title, shaker.title]);
  await collect(later);
  await show([tambourine.title, shaker.title, later.title]);
  await hear(shaker.title).focus();
  await page.keyboard.press('Alt+ArrowUp');
  await show([shaker.title, tambourine.title, later.title]);
});
