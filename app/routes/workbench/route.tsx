import { data } from 'react-router';
import { idParam } from '~server/http/input.server';
import { requirePerson } from '~server/http/session.server';
import { findLoop } from '~server/services/loops.server';
import type { Route } from './+types/route';
import { BenchPage } from './bench-page';
import { BringIn } from './bring-in';

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${loaderData?.loop ? `${loaderData.loop.row.title} on the workbench` : 'Workbench'} · Garnetfinch` },
];

export async function loader({ request, params }: Route.LoaderArgs) {
  const person = await requirePerson(request);
  if (params.loopId === undefined) return { loop: null };
  const detail = await findLoop(idParam(params.loopId), person.id);
  if (!detail) throw data('There is no loop with that number.', { status: 404 });
  if (detail.row.source.media !== 'audio') throw data('Only sounds can be worked on here; this loop is notes.', { status: 404 });
  return { loop: { row: detail.row, tuningCents: detail.tuningCents, levels: detail.analysis?.levels ?? null } };
}

/** One loop on the bench, the project still in the room. */
export default function WorkbenchPage({ loaderData: { loop } }: Route.ComponentProps) {
  return loop ? <BenchPage key={loop.row.id} {...loop} /> : <BringIn />;
}
