import { idParam } from '~server/http/input.server';
import { mediaResponse } from '~server/http/media.server';
import { requirePersonForData } from '~server/http/session.server';
import { findDocument } from '~server/services/pack-page.server';
import type { Route } from './+types/media-document';

/** A text, a picture, a PDF that came with a pack. It is from outside: no page is allowed to do anything in our name. */
export async function loader({ request, params }: Route.LoaderArgs) {
  await requirePersonForData(request);
  const found = await findDocument(idParam(params.documentId));
  if (!found) return new Response('There is no such document.', { status: 404 });
  const { fileSha, mediaType, kind, path } = found,
    response = await mediaResponse(fileSha, request, {
      mediaType,
      download: kind === 'pdf' ? (path.split('/').at(-1) ?? 'document.pdf') : null,
    });
  response.headers.set('Content-Security-Policy', "default-src 'none'; sandbox");
  response.headers.set('X-Content-Type-Options', 'nosniff');
  return response;
}
