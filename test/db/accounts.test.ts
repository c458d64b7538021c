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
  test('sign in, be known, sign out, be a stranger', async () => {
    const right = await s.people.signIn('ada quill', 'a long password', '127.0.0.1');
    if (!right.ok) throw new Error('not signed in');
    expect(await s.people.findSignedIn(right.token)).toMatchObject({ id: person, name: 'Ada Quill' });
    expect(await s.db.selectRows("select 1 from sessions where encode(token_hash, 'escape') like $1", [`%${right.token}%`])).toEqual([]);
    await s.people.signOut(right.token);
    expect(await s.people.findSignedIn(right.token)).toBeNull();
  });
  test('sixty guesses at once are sixty: six are looked at, the others wait; somebody elsewhere gets in', async () => {
    const added = await s.people.addPerson('Fay Holm', 'a sixth password', person);
    expect(added.ok).toBe(true);
    const answers = await Promise.all(Array.from({ length: 60 }, () => s.people.signIn('Fay Holm', 'wrong', '10.1.1.1')));
    expect(answers.filter((answer) => !answer.ok && answer.reason === 'wrong')).toHaveLength(6);
    expect(answers.find((answer) => !answer.ok && answer.reason === 'too-many')).toMatchObject({ waitSeconds: expect.any(Number) });
    expect(await s.people.signIn('Fay Holm', 'a sixth password', '10.1.1.1')).toMatchObject({ ok: false, reason: 'too-many' });
    // The name itself is never locked, only answered later.
    expect(await s.people.signIn('fay holm', 'a sixth password', '10.1.1.2')).toMatchObject({ ok: true });
  });
  test('a password can be changed: the old one and other windows are out, this one stays', async () => {
    const added = await s.people.addPerson('Gus Lane', 'a seventh password', person);
    if (!added.ok) throw new Error('not added');
    const [here, there] = [
      await s.people.signIn('Gus Lane', 'a seventh password', '10.2.0.1'),
      await s.people.signIn('Gus Lane', 'a seventh password', '10.2.0.2'),
    ];
    if (!here.ok || !there.ok) throw new Error('not signed in');
    expect(await s.people.changePassword(added.id, 'not it', 'another one now', here.token)).toMatch(/not your password/);
    expect(await s.people.changePassword(added.id, 'a seventh password', 'another one now', here.token)).toBeNull();
    expect(await s.people.findSignedIn(here.token)).toMatchObject({ name: 'Gus Lane' });
    expect(await s.people.findSignedIn(there.token)).toBeNull();
    expect(await s.people.signIn('Gus Lane', 'a seventh password', '10.2.0.1')).toMatchObject({ reason: 'wrong' });
    expect(await s.people.signIn('Gus Lane', 'another one now', '10.2.0.1')).toMatchObject({ ok: true });
  });
  test('who is removed is out at once, is listed, and can be let in again; only keepers do that, and to others', async () => {
    const added = await s.people.addPerson('Hal Frost', 'an eighth password', person),
      keeper = await s.people.addPerson('Ivy Stone', 'a tenth password', person, 'keeper');
    if (!added.ok || !keeper.ok) throw new Error('not added');
    const signed = await s.people.signIn('Hal Frost', 'an eighth password', '10.3.0.1');
    if (!signed.ok) throw new Error('not signed in');
    expect(await s.people.changePerson(added.id, { isHere: false }, person)).toMatch(/Only a keeper/);
    expect(await s.people.changePerson(added.id, { isHere: false }, keeper.id)).toBeNull();
    expect(await s.people.findSignedIn(signed.token)).toBeNull();
    expect((await s.people.listRemoved())[0]).toEqual({ id: added.id, name: 'Hal Frost' });
    expect(await s.people.signIn('Hal Frost', 'an eighth password', '10.3.0.1')).toMatchObject({ reason: 'wrong' });
    expect(await s.people.changePerson(added.id, { isHere: true }, keeper.id)).toBeNull();
    expect(await s.people.signIn('Hal Frost', 'an eighth password', '10.3.0.1')).toMatchObject({ ok: true });
    expect(await s.people.changePerson(keeper.id, { isHere: false }, keeper.id)).toMatch(/Nobody removes themselves/);
    expect(await s.people.changePerson(keeper.id, { role: 'member' }, keeper.id)).toMatch(/Nobody removes themselves/);
    expect(await s.people.changePerson(999_999, { isHere: false }, keeper.id)).toMatch(/nobody with that number/);
    expect(await s.people.changePerson(added.id, {}, keeper.id)).toMatch(/Nothing/);
  });
  test('who forgot a password gets a new one from a keeper, and their windows are out', async () => {
    const added = await s.people.addPerson('Jon Fell', 'an eleventh password', person),
      keeper = await s.people.addPerson('Kit Moor', 'a twelfth password', person, 'keeper');
    if (!added.ok || !keeper.ok) throw new Error('not added');
    const signed = await s.people.signIn('Jon Fell', 'an eleventh password', '10.4.0.1');
    if (!signed.ok) throw new Error('not signed in');
    expect(await s.people.changePerson(added.id, { password: 'a thirteenth password' }, keeper.id)).toBeNull();
    expect(await s.people.findSignedIn(signed.token)).toBeNull();
    expect(await s.people.signIn('Jon Fell', 'an eleventh password', '10.4.0.1')).toMatchObject({ reason: 'wrong' });
    expect(await s.people.signIn('Jon Fell', 'a thirteenth password', '10.4.0.1')).toMatchObject({ ok: true });
    expect(await s.people.changePerson(keeper.id, { password: 'a thirteenth password' }, keeper.id)).toMatch(/the one you have/);
  });
  test('of two who are added under one name at once one is, and the other told that it is taken', async () => {
    const two = await Promise.all(['Nan Reed', 'nan reed'].map((name) => s.people.addPerson(name, 'a sixteenth password', person)));
    expect(two.filter(({ ok }) => ok)).toHaveLength(1);
    expect(two.filter(({ ok }) => !ok)).toEqual([{ ok: false, reason: 'taken' }]);
  });
  test('of two keepers that remove each other one is left', async () => {
    const two = [
      await s.people.addPerson('Lou Bram', 'a fourteenth password', person, 'keeper'),
      await s.people.addPerson('Max Thorn', 'a fifteenth password', person, 'keeper'),
    ].map((each) => (each.ok ? each.id : 0));
    const wrong = await Promise.all([
      s.people.changePerson(two[0], { isHere: false }, two[1]),
      s.people.changePerson(two[1], { role: 'member' }, two[0]),
    ]);
    expect(wrong.filter((each) => each === null)).toHaveLength(1);
    expect(wrong.filter((each) => each !== null)).toEqual(['Only a keeper can do that.']);
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
      "insert into sign_in_limits (key, points, expire) values ('address:10.9.9.9', 30, extract(epoch from now() + interval '10 minutes') * 1000)",
    );
    const added = await s.people.addPerson('Eve Lind', 'a fifth password', person);
    expect(added.ok).toBe(true);
    expect(await s.people.signIn('Eve Lind', 'a fifth password', '10.9.9.9')).toMatchObject({ ok: false, reason: 'too-many' });
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
