import { openLibrary, type Library, type Services } from './services';

let library: Library, s: Services, person: number;
beforeAll(async () => {
  library = await openLibrary();
  ({ s, person } = library);
});
afterAll(() => library.close());

describe('accounts (OWASP cheat sheets on password storage and sessions)', () => {
  test('hashes are scrypt, salted, and verify', async () => {
    const [a, b] = await Promise.all([s.people.hashPassword('night ferry'), s.people.hashPassword('night ferry')]);
    expect(a).toMatch(/^scrypt\$32768\$8\$3\$/);
    expect(a).not.toBe(b);
    expect([await s.people.verifyPassword('night ferry', a), await s.people.verifyPassword('day ferry', a)]).toEqual([true, false]);
  });
  test('sign in, be known, sign out, be a stranger; six wrong tries and the name waits', async () => {
    const right = await s.people.signIn('ada quill', 'a long password', '127.0.0.1');
    if (!right.ok) throw new Error('not signed in');
    expect(await s.people.findSignedIn(right.token)).toMatchObject({ id: person, name: 'Ada Quill' });
    expect(await s.db.selectRows("select 1 from sessions where encode(token_hash, 'escape') like $1", [`%${right.token}%`])).toEqual([]);
    await s.people.signOut(right.token);
    expect(await s.people.findSignedIn(right.token)).toBeNull();
    for (let attempt = 0; attempt < 6; attempt++)
      expect(await s.people.signIn('Ada Quill', 'wrong', 'x')).toEqual({ ok: false, reason: 'wrong' });
    expect(await s.people.signIn('Ada Quill', 'a long password', 'y')).toEqual({ ok: false, reason: 'too-many' });
  });
  test('a name is taken however it is written; a session that has run out is a stranger’s', async () => {
    expect(await s.people.addPerson('ADA QUILL', 'whatever it is', null)).toEqual({ ok: false, reason: 'taken' });
    const added = await s.people.addPerson('Cleo Marsh', 'a third password', person, 'keeper');
    if (!added.ok) throw new Error('not added');
    const signed = await s.people.signIn('Cleo Marsh', 'a third password', '10.0.0.3');
    if (!signed.ok) throw new Error('not signed in');
    expect(await s.people.findSignedIn(signed.token)).toMatchObject({ role: 'keeper', projectId: null });
    await s.db.sequelize.query("update sessions set expires_at = now() - interval '1 second' where person_id = $1", { bind: [added.id] });
    expect(await s.people.findSignedIn(signed.token)).toBeNull();
    expect(await s.people.findSignedIn(null)).toBeNull();
    expect(await s.people.findSignedIn('no such token')).toBeNull();
  });
  test('who left can no longer sign in, and is told no more than a stranger', async () => {
    const added = await s.people.addPerson('Dov Reed', 'a fourth password', person);
    if (!added.ok) throw new Error('not added');
    await s.db.sequelize.query('update people set archived_at = now() where id = $1', { bind: [added.id] });
    expect(await s.people.signIn('Dov Reed', 'a fourth password', '10.0.0.4')).toEqual({ ok: false, reason: 'wrong' });
    expect(await s.people.signIn('Nobody Here', 'a fourth password', '10.0.0.4')).toEqual({ ok: false, reason: 'wrong' });
    expect((await s.people.listPeople()).map(({ name }) => name)).not.toContain('Dov Reed');
  });
  test('thirty wrong tries from one address and it waits, whatever names were tried', async () => {
    await s.db.sequelize.query(
      "insert into sign_in_failures (name, address) select 'name ' || k, '10.9.9.9' from generate_series(1, 30) k",
    );
    const added = await s.people.addPerson('Eve Lind', 'a fifth password', person);
    expect(added.ok).toBe(true);
    expect(await s.people.signIn('Eve Lind', 'a fifth password', '10.9.9.9')).toEqual({ ok: false, reason: 'too-many' });
    expect(await s.people.signIn('Eve Lind', 'a fifth password', '10.9.9.8')).toMatchObject({ ok: true });
  });
  test('what people do is listed, the newest first', async () => {
    await s.people.recordActivity(person, 'placed', 'loop', 7, { track: 'Drums' });
    expect((await s.people.listActivity(1))[0]).toMatchObject({
      person: 'Ada Quill',
      verb: 'placed',
      subject: 'loop',
      subjectId: 7,
      detail: { track: 'Drums' },
    });
    expect(await s.people.countPeople()).toBeGreaterThan(1);
  });
});
