import { problem } from '~server/http/problem.server';
import { readForm, remoteForm } from '~server/forms/forms';
import { readFormData } from '~server/http/input.server';
import { requirePersonForData } from '~server/http/session.server';
import type { RemoteCommand, RoomState } from '~contracts/remote';
import { sendCommand, tellState } from '~server/services/remote.server';
import type { Route } from './+types/remote';

/** Between a room and the remotes of the same person: commands one way, how it is the other. */
export async function action({ request }: Route.ActionArgs) {
  const person = await requirePersonForData(request),
    read = await readForm(remoteForm, await readFormData(request));
  if (!read.ok) return problem(400, 'The remote cannot do that.');
  if (read.values.room) await tellState(person.id, JSON.parse(read.values.room) as RoomState);
  else if (read.values.command) await sendCommand(person.id, read.values.command as RemoteCommand);
  return { ok: true };
}
