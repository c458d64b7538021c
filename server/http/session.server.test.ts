import { pathOfOurs, sessionCookie, sessionToken } from './session.server';

test.each([
  ['/packs?show=1', '/packs?show=1'],
  ['/', '/'],
  [null, '/'],
  ['', '/'],
  ['//evil.example', '/'],
  ['/\\evil.example', '/'],
  ['/\t/evil.example', '/'],
  ['https://evil.example/', '/'],
  ['javascript:alert(1)', '/'],
  ['packs', '/'],
])('asked to go to %p, one goes to %p', (to, expected) => expect(pathOfOurs(to)).toBe(expected));

describe('the cookie', () => {
  const token = 'a'.repeat(43),
    here = (cookie?: string, address = 'http://room.example/') => new Request(address, cookie ? { headers: { Cookie: cookie } } : {}),
    pair = async (address?: string) => (await sessionCookie(token, 3600, here(undefined, address))).split(';')[0];
  test('brings back what was set, among others too', async () => {
    expect(await sessionToken(here(await pair()))).toBe(token);
    expect(await sessionToken(here(`theme=dusk; ${await pair()}; x=1`))).toBe(token);
  });
  test.each([undefined, 'garnetfinch=', 'garnetfinch=short', 'garnetfinch=%00%ff', 'other=1', `garnetfinch=${'a'.repeat(43)}`])(
    '%p names nobody',
    async (cookie) => expect(await sessionToken(here(cookie))).toBeNull(),
  );
  test('is kept from scripts and other sites, and from plain lines where the page came by a safe one', async () => {
    expect(await sessionCookie(token, 3600, here())).toMatch(/HttpOnly/);
    expect(await sessionCookie(token, 3600, here())).toMatch(/SameSite=Lax/);
    expect(await sessionCookie(token, 3600, here())).not.toMatch(/Secure/);
    expect(await sessionCookie(token, 3600, here(undefined, 'https://room.example/'))).toMatch(/Secure/);
    expect(await sessionCookie('', 0, here())).toMatch(/Max-Age=0/);
  });
});
