import { rangeParameter, readHeardRange } from '~contracts/heard-range';
import { parseLoopQuery } from '~core/search/query';
import type { LookUp } from '../services/look-up.server';
import { roomProject } from '../services/room.server';
import type { SignedIn } from '../services/sessions.server';
import { roomProjectId } from './room.server';

/** What a request looks for, by its address: the query, the room, and the part of it that is heard. */
export async function lookUpOf(request: Request, person: SignedIn): Promise<LookUp> {
  const { searchParams } = new URL(request.url);
  return {
    query: parseLoopQuery(searchParams),
    personId: person.id,
    project: await roomProject(roomProjectId(request, person)),
    range: readHeardRange(searchParams.get(rangeParameter)),
  };
}
