import { createHash, randomBytes } from 'node:crypto';
import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible';
import { config } from '../config.server';
import { selectRows, sequelize } from '../db/connection';
import { endSessionsSql, findSignedInSql, latestProjectOfSql, setSessionProjectSql } from '../db/queries/sessions';
import { Person, Session } from '../db/models/people';
import { announce } from '../events/announce.server';
import { isDemoAccount } from './demo.server';
import { hashPassword, verifyPassword, waitingPasswords } from './passwords.server';

export interface SignedIn {
  readonly id: number;
  readonly name: string;
  readonly role: 'member' | 'keeper';
  readonly projectId: number | null;
}

const sessionDays = 30;
const hashToken = (token: string): Buffer => createHash('sha256').update(token).digest();
/** By this name a session's open streams know it; nobody can sign in with it. */
export const sessionName = (token: string): string => hashToken(token).toString('hex');

const limiter = (keyPrefix: string, points: number, durationSeconds: number) =>
  new RateLimiterPostgres({
    storeClient: sequelize,
    storeType: 'sequelize',
    tableName: 'sign_in_limits',
    tableCreated: true,
    clearExpiredByTimeout: false,
    keyPrefix,
    points,
    duration: durationSeconds,
  });
const windowSeconds = 600,
  /** Tries of one address, whomever it tries to be; a house full of people behind one address gets by. */
  byAddress = limiter('address', 30, windowSeconds),
  /** Tries of one address to be one person. */
  byBoth = limiter('both', 6, 60),
  /** Tries to be one person from anywhere: these are answered late and never refused, or six strangers could lock somebody out. */
  byName = limiter('name', 1_000_000, windowSeconds),
  freeTries = 6,
  longestDelayMs = 8_000,
  mostWaiting = 20;

/** Checked when the name is unknown, so that both answers take as long. */
let decoyHash: string | null = null;

export type SignInResult =
  | { readonly ok: true; readonly token: string; readonly maxAgeSeconds: number }
  | { readonly ok: false; readonly reason: 'wrong' }
  | { readonly ok: false; readonly reason: 'too-many'; readonly waitSeconds: number };

/**
 * Signs a person in. Wrong names and wrong passwords answer alike. A try is counted before it is looked at, so that a hundred at once are a
 * hundred; a right one is given back. Who tries too often from one address waits; a name that many try is answered more and more slowly.
 */
export async function signIn(name: string, password: string, address: string): Promise<SignInResult> {
  if (waitingPasswords() >= mostWaiting) return { ok: false, reason: 'too-many', waitSeconds: 5 };
  const lowName = name.toLowerCase(),
    both = `${lowName}|${address}`;
  try {
    await byAddress.consume(address);
    await byBoth.consume(both);
  } catch (refused) {
    if (!(refused instanceof RateLimiterRes)) throw refused;
    return { ok: false, reason: 'too-many', waitSeconds: Math.ceil(refused.msBeforeNext / 1000) };
  }
  const { consumedPoints } = await byName.consume(lowName);
  if (consumedPoints > freeTries)
    await new Promise((next) => setTimeout(next, Math.min(longestDelayMs, 250 * 2 ** (consumedPoints - freeTries - 1))));
  const person = await Person.findOne({ where: { name, archivedAt: null } }),
    right = await verifyPassword(password, person?.passwordHash ?? (decoyHash ??= await hashPassword('decoy')));
  // Without the demo its passwords, which everybody can read, open nothing.
  if (!person || !right || (!config.demo && isDemoAccount(person.name, password))) return { ok: false, reason: 'wrong' };
  await Promise.all([byAddress.reward(address), byBoth.delete(both), byName.delete(lowName)]);
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
  const [row] = await selectRows<{ id: number }>(latestProjectOfSql, [personId]);
  return row?.id ?? null;
}

/** The person behind a session token, or null. */
export async function findSignedIn(token: string | null): Promise<SignedIn | null> {
  if (!token) return null;
  const [row] = await selectRows<SignedIn>(findSignedInSql, [hashToken(token)]);
  return row ?? null;
}

export async function signOut(token: string | null): Promise<void> {
  if (!token) return;
  await Session.destroy({ where: { tokenHash: hashToken(token) } });
  await announce({ kind: 'signed-out', sessions: [sessionName(token)] });
}

/** Ends all sessions of a person, but for the one that is kept. */
export async function endSessions(personId: number, keepToken: string | null = null): Promise<void> {
  const ended = await selectRows<{ name: string }>(endSessionsSql, [personId, keepToken ? hashToken(keepToken) : Buffer.alloc(0)]);
  if (ended.length > 0) await announce({ kind: 'signed-out', sessions: ended.map(({ name }) => name) });
}

/** Makes a project the one in the room for this session; null for none, or where there is none with that number. */
export async function setSessionProject(token: string | null, projectId: number | null): Promise<void> {
  if (!token) return;
  await sequelize.query(setSessionProjectSql, { bind: [hashToken(token), projectId] });
}

/** Without the demo, whoever came in by a demo account's button goes. */
export async function closeDemoSessions(names: readonly string[]): Promise<void> {
  for (const { id } of await Person.findAll({ where: { name: [...names] }, attributes: ['id'] })) await endSessions(id);
}
