import { Activity, Person } from '../db/models/people';
import { selectRows } from '../db/connection';
import { activitySql, peopleSql, removedSql } from '../db/queries/people';
import { inTransaction } from '../db/transaction';
import { hashPassword, verifyPassword } from './passwords.server';
import { endSessions } from './sessions.server';

export type AddPersonResult = { readonly ok: true; readonly id: number } | { readonly ok: false; readonly reason: 'taken' };

export async function addPerson(
  name: string,
  password: string,
  byPersonId: number | null,
  role: 'member' | 'keeper' = 'member',
): Promise<AddPersonResult> {
  if (await Person.findOne({ where: { name } })) return { ok: false, reason: 'taken' };
  const passwordHash = await hashPassword(password),
    // Somebody else may have taken it meanwhile.
    person = await Person.create({ name, passwordHash, role }).catch((error: Error) => {
      if (error.name === 'SequelizeUniqueConstraintError') return null;
      throw error;
    });
  if (!person) return { ok: false, reason: 'taken' };
  if (byPersonId !== null) await recordActivity(byPersonId, 'added', 'person', person.id, { name });
  return { ok: true, id: person.id };
}

/** A person's new password; other sessions of theirs end. @returns what is wrong, or null */
export async function changePassword(personId: number, current: string, next: string, keepToken: string | null): Promise<string | null> {
  const person = await Person.findByPk(personId, { rejectOnEmpty: true });
  if (!(await verifyPassword(current, person.passwordHash))) return 'That is not your password.';
  await person.update({ passwordHash: await hashPassword(next) });
  await endSessions(personId, keepToken);
  await recordActivity(personId, 'changed', 'password', null);
  return null;
}

/** What a keeper may do to somebody else, one thing at a time. */
export interface PersonChange {
  /** Shown the door, or let in again; what they brought in stays. */
  readonly isHere?: boolean;
  readonly role?: 'member' | 'keeper';
  /** For who forgot theirs. */
  readonly password?: string;
}

/**
 * Changes somebody. Nobody does that to themselves, and both are held meanwhile: two keepers cannot remove each other, so that one is always left.
 * @returns what is wrong, or null
 */
export async function changePerson(personId: number, { isHere, role, password }: PersonChange, byPersonId: number): Promise<string | null> {
  if (isHere === undefined && role === undefined && password === undefined) return 'Nothing was to be changed.';
  const passwordHash = password === undefined ? undefined : await hashPassword(password),
    archivedAt = isHere === undefined ? undefined : isHere ? null : new Date();
  const done = await inTransaction(async (transaction) => {
    const both = await Person.findAll({
        where: { id: [personId, byPersonId] },
        order: ['id'],
        lock: transaction.LOCK.UPDATE,
        transaction,
      }),
      by = both.find(({ id }) => id === byPersonId),
      person = both.find(({ id }) => id === personId);
    if (by?.role !== 'keeper' || by.archivedAt !== null) return { wrong: 'Only a keeper can do that.' };
    if (!person) return { wrong: 'There is nobody with that number.' };
    if (person === by)
      return {
        wrong:
          password === undefined
            ? 'Nobody removes themselves, or changes what they may do: another keeper has to.'
            : 'Your own password is changed with the one you have.',
      };
    await person.update(
      { ...(archivedAt === undefined ? {} : { archivedAt }), ...(role ? { role } : {}), ...(passwordHash ? { passwordHash } : {}) },
      { transaction },
    );
    return { name: person.name };
  });
  if (done.wrong !== undefined) return done.wrong;
  if (isHere === false || password !== undefined) await endSessions(personId);
  const verb = isHere === false ? 'removed' : isHere ? 'let in' : role ? `made a ${role} of` : 'gave a new password to';
  await recordActivity(byPersonId, verb, 'person', personId, { name: done.name });
  return null;
}

/** Who can no longer sign in, the last first. */
export const listRemoved = (): Promise<{ id: number; name: string }[]> => selectRows(removedSql);

export interface PersonRow {
  readonly id: number;
  readonly name: string;
  readonly role: 'member' | 'keeper';
  readonly createdAt: Date;
  readonly loops: number;
  readonly corrections: number;
  readonly favourites: number;
}

/** Everybody who is here, with what they did; each count reads one index once. */
export function listPeople(): Promise<PersonRow[]> {
  return selectRows<PersonRow>(peopleSql);
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
  return selectRows<ActivityRow>(activitySql, [limit]);
}
