import { idParam } from '~server/http/input.server';
import { mediaResponse, textFile } from '~server/http/media.server';
import { requirePersonForData } from '~server/http/session.server';
import { findExport } from '~server/services/exports.server';
import type { Route } from './+types/media-export';

/** A mixdown, or an archive with its stems (`?what=credits`: the list of what was used). */
export async function loader({ request, params }: Route.LoaderArgs) {
  await requirePersonForData(request);
  const found = await findExport(idParam(params.exportId));
  if (!found?.fileSha) return new Response('There is no such mixdown.', { status: 404 });
  if (new URL(request.url).searchParams.get('what') === 'credits') return textFile(`${found.name}, used loops.txt`, found.credits ?? '');
  const form = `${found.bits} bit, ${found.rateHz / 1000} kHz`;
  return found.what === 'stems'
    ? mediaResponse(found.fileSha, request, { mediaType: 'application/zip', download: `${found.name}, stems (${form}).zip` })
    : mediaResponse(found.fileSha, request, { download: `${found.name} (${form}).wav` });
}
