import { expect } from '@playwright/test';
import { comeIn, keeper, test, visit } from './support';

test('a keeper adds somebody, makes them a keeper, gives a new password, removes them and lets them in again', async ({
  page,
  playwright,
  baseURL,
}) => {
  const name = `Ode Vale ${Date.now().toString(36)}`,
    /** From elsewhere. */
    signIn = async (password: string): Promise<number> => {
      const elsewhere = await playwright.request.newContext({ baseURL }),
        answer = await elsewhere.post('/sign-in', { form: { name, password }, maxRedirects: 0 });
      await elsewhere.dispose();
      return answer.status();
    };
  await comeIn(page, keeper);
  await visit(page, '/people');
  await page.getByLabel('Name', { exact: true }).fill(name);
  await page.getByLabel('Password to begin with').fill('a first password');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.getByText(`${name} can sign in now.`)).toBeVisible();
  expect(await signIn('a first password')).toBe(302);
  const row = page.getByRole('row', { name: new RegExp(name) }),
    change = page.getByRole('button', { name: `Change ${name}` });
  await change.click();
  const panel = page.getByRole('dialog', { name: `Change ${name}` });
  await panel.getByRole('button', { name: 'Make them a keeper' }).click();
  await expect(row).toContainText('keeper');
  await panel.getByLabel(/A new password/).fill('short');
  await panel.getByRole('button', { name: 'Give it' }).click();
  await expect(panel.getByRole('alert')).toContainText('At least 10 letters');
  await panel.getByLabel(/A new password/).fill('a second password');
  await panel.getByRole('button', { name: 'Give it' }).click();
  await expect(page.getByText(`${name} signs in with the new password`)).toBeVisible();
  expect([await signIn('a first password'), await signIn('a second password')]).toEqual([401, 302]);
  await panel.getByRole('button', { name: `Remove ${name}` }).click();
  await expect(change).toHaveCount(0);
  expect(await signIn('a second password')).toBe(401);
  // Also when the message with the way back is gone.
  await visit(page, '/people');
  await page.getByText(/^No longer here/).click();
  await page.getByRole('button', { name: `Let ${name} in again` }).click();
  await expect(change).toBeVisible();
  expect(await signIn('a second password')).toBe(302);
  // Put away again: who is listed here is counted by others.
  const removed = page.waitForResponse((response) => response.request().method() === 'DELETE');
  await change.click();
  await panel.getByRole('button', { name: `Remove ${name}` }).click();
  expect((await removed).ok()).toBe(true);
});
