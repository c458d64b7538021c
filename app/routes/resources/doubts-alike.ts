import { doubtAttributes } from '~core/analysis/attributes/registry';
import { idParam } from '~server/http/input.server';
import { problemResponse } from '~server/http/problem.server';
import { requirePersonForData } from '~server/http/session.server';
import { findAlike } from '~server/services/doubts.server';
import type { Route } from './+types/doubts-alike';

/** The other doubts on a fact in a loop's pack. */
export async function loader({ request }: Route.LoaderArgs) {
  await requirePersonForData(request);
  const { searchParams } = new URL(request.url),
    attribute = doubtAttributes.find((each) => each === searchParams.get('attribute'));
  if (!attribute) throw problemResponse(400, 'Say which fact.');
  return { alike: await findAlike(idParam(searchParams.get('loopId')), attribute, searchParams.get('guesses') === '1') };
}
