import { Activity, Person } from '../db/models/people';
import { selectRows } from '../db/connection';
import { activitySql, peopleSql } from '../db/queries/people';
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
  const person = await Person.create({ name, passwordHash: await hashPassword(password), role });
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

/** Shows a person the door, or lets one in again. What they brought in stays. @returns what is wrong, or null */
export async function removePerson(personId: number, removed: boolean, byPersonId: number): Promise<string | null> {
  const person = await Person.findByPk(personId);
  if (!person) return 'There is nobody with that number.';
  if (removed && personId === byPersonId) return 'Nobody removes themselves: another keeper has to.';
  await person.update({ archivedAt: removed ? new Date() : null });
  if (removed) await endSessions(personId);
  await recordActivity(byPersonId, removed ? 'removed' : 'let in', 'person', personId, { name: person.name });
  return null;
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
