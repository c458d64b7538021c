import { createHash, randomBytes, scrypt, timingSafeEqual } from 'node:crypto';
import { promisify } from 'node:util';
import { Op } from 'sequelize';
import { Activity, Person, Session, SignInFailure } from '../db/models/people';
import { selectRows } from '../db/connection';

const derive = promisify(scrypt) as (password: string, salt: Buffer, length: number, options: object) => Promise<Buffer>;
/** OWASP Password Storage Cheat Sheet: scrypt with N = 2^15, r = 8, p = 3 (32 MB a guess). */
const cost = { N: 2 ** 15, r: 8, p: 3, maxmem: 128 * 1024 * 1024 };

export async function hashPassword(password: string): Promise<string> {
  const salt = randomBytes(16);
  return `scrypt$${cost.N}$${cost.r}$${cost.p}$${salt.toString('base64')}$${(await derive(password, salt, 32, cost)).toString('base64')}`;
}

export async function verifyPassword(password: string, stored: string): Promise<boolean> {
  const [scheme, n, r, p, salt, hash] = stored.split('$');
  if (scheme !== 'scrypt') return false;
  const expected = Buffer.from(hash, 'base64');
  const got = await derive(password, Buffer.from(salt, 'base64'), expected.length, {
    N: Number(n),
    r: Number(r),
    p: Number(p),
    maxmem: cost.maxmem,
  });
  return timingSafeEqual(expected, got);
}

export interface SignedIn {
  readonly id: number;
  readonly name: string;
  readonly role: 'member' | 'keeper';
  readonly projectId: number | null;
}

const sessionDays = 30;
const triesPerName = 6,
  triesPerAddress = 30,
  windowMinutes = 10;
const hashToken = (token: string): Buffer => createHash('sha256').update(token).digest();
/** Checked when the name is unknown, so that both answers take as long. */
let decoyHash: string | null = null;

export type SignInResult =
  | { readonly ok: true; readonly token: string; readonly maxAgeSeconds: number }
  | { readonly ok: false; readonly reason: 'wrong' | 'too-many' };

/** Signs a person in. Wrong names and wrong passwords answer alike; after six wrong tries in ten minutes a name waits. */
export async function signIn(name: string, password: string, address: string): Promise<SignInResult> {
  const since = new Date(Date.now() - windowMinutes * 60_000);
  const [byName, byAddress] = await Promise.all([
    SignInFailure.count({ where: { name, at: { [Op.gt]: since } } }),
    SignInFailure.count({ where: { address, at: { [Op.gt]: since } } }),
  ]);
  if (byName >= triesPerName || byAddress >= triesPerAddress) return { ok: false, reason: 'too-many' };
  const person = await Person.findOne({ where: { name, archivedAt: null } });
  const right = await verifyPassword(password, person?.passwordHash ?? (decoyHash ??= await hashPassword('decoy')));
  if (!person || !right) {
    await SignInFailure.create({ name, address });
    return { ok: false, reason: 'wrong' };
  }
  await SignInFailure.destroy({ where: { name } });
  const token = randomBytes(32).toString('base64url');
  await Session.create({
    tokenHash: hashToken(token),
    personId: person.id,
    projectId: await latestProjectOf(person.id),
    expiresAt: new Date(Date.now() + sessionDays * 86_400_000),
  });
  return { ok: true, token, maxAgeSeconds: sessionDays * 86_400 };
}

async function latestProjectOf(personId: number): Promise<number | null> {
  const [row] = await selectRows<{ id: number }>(
    'select p.id from projects p left join sessions s on s.project_id = p.id and s.person_id = $1 where p.archived_at is null order by s.created_at desc nulls last, p.changed_at desc limit 1',
    [personId],
  );
  return row?.id ?? null;
}

/** The person behind a session token, or null. */
export async function findSignedIn(token: string | null): Promise<SignedIn | null> {
  if (!token) return null;
  const [row] = await selectRows<SignedIn>(
    'select p.id, p.name::text as name, p.role, s.project_id as "projectId" from sessions s join people p on p.id = s.person_id where s.token_hash = $1 and s.expires_at > now() and p.archived_at is null',
    [hashToken(token)],
  );
  return row ?? null;
}

export async function signOut(token: string | null): Promise<void> {
  if (token) await Session.destroy({ where: { tokenHash: hashToken(token) } });
}

/** Makes a project the one in the room for this session; null for none. */
export async function setSessionProject(token: string | null, projectId: number | null): Promise<void> {
  if (token) await Session.update({ projectId }, { where: { tokenHash: hashToken(token) } });
}

export type AddPersonResult = { readonly ok: true; readonly id: number } | { readonly ok: false; readonly reason: 'taken' };

export async function addPerson(
  name: string,
  password: string,
  byPersonId: number | null,
  role: 'member' | 'keeper' = 'member',
): Promise<AddPersonResult> {
  if (await Person.findOne({ where: { name } })) return { ok: false, reason: 'taken' };
  const person = await Person.create({ name, passwordHash: await hashPassword(password), role });
  if (byPersonId !== null) await recordActivity(byPersonId, 'added', 'person', person.id, { name });
  return { ok: true, id: person.id };
}

export interface PersonRow {
  readonly id: number;
  readonly name: string;
  readonly role: string;
  readonly createdAt: Date;
  readonly loops: number;
  readonly corrections: number;
  readonly favourites: number;
}

export function listPeople(): Promise<PersonRow[]> {
  return selectRows<PersonRow>(`select p.id, p.name::text as name, p.role, p.created_at as "createdAt",
    (select count(*)::int from loops l where l.added_by = p.id and l.archived_at is null) as loops,
    (select count(*)::int from facts f where f.person_id = p.id and f.superseded_at is null) as corrections,
    (select count(*)::int from favourites v where v.person_id = p.id) as favourites
    from people p where p.archived_at is null order by p.name`);
}

export async function countPeople(): Promise<number> {
  return Person.count();
}

export async function recordActivity(
  personId: number,
  verb: string,
  subject: string,
  subjectId: number | null,
  detail: object = {},
): Promise<void> {
  await Activity.create({ personId, verb, subject, subjectId, detail });
}

export interface ActivityRow {
  readonly id: string;
  readonly person: string;
  readonly verb: string;
  readonly subject: string;
  readonly subjectId: number | null;
  readonly detail: Readonly<Record<string, unknown>>;
  readonly at: Date;
}

export function listActivity(limit = 40): Promise<ActivityRow[]> {
  return selectRows<ActivityRow>(
    'select a.id, p.name::text as person, a.verb, a.subject, a.subject_id as "subjectId", a.detail, a.at from activity a join people p on p.id = a.person_id order by a.at desc, a.id desc limit $1',
    [limit],
  );
}
