import { expect, type Page } from '@playwright/test';

/** What lies on the bench has been made. */
export const benchReady = (page: Page) => expect(page.getByRole('button', { name: 'Save …' })).toBeEnabled({ timeout: 30_000 });

/** Adds a step to what lies on the bench. */
export async function addStep(page: Page, name: RegExp): Promise<void> {
  await page.getByRole('button', { name: 'Add' }).click();
  await page.getByRole('menuitem', { name }).click();
  await benchReady(page);
}

/** Saves what is on the bench under a name, into a new pack of the group's own, and goes to its page. */
export async function saveAs(page: Page, name: string, packName: string): Promise<number> {
  await page.getByRole('button', { name: 'Save …' }).click();
  const dialog = page.getByRole('dialog', { name: 'Save into the library' });
  await dialog.getByLabel('Name', { exact: true }).fill(name);
  await dialog.getByLabel('Into the pack').selectOption('');
  await dialog.getByLabel('Its name').fill(packName);
  await dialog.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(dialog).toBeHidden();
  await expect(page.getByText(`“${name}” is in the library.`)).toBeVisible({ timeout: 60_000 });
  return loopCalled(page, name);
}

/** A loop by its title. */
export async function loopCalled(page: Page, name: string): Promise<number> {
  const { rows } = (await (await page.request.get(`/api/v1/loops?q=${encodeURIComponent(name)}&limit=20&in=none`)).json()) as {
      rows: { id: number; title: string }[];
    },
    found = rows.find(({ title }) => title === name);
  if (!found) throw new Error(`no ${name}`);
  return found.id;
}
