import { FileText } from 'lucide-react';
import { megabytes } from '~/ui/size-words';
import type { DocumentLine } from '~server/services/pack-page.server';

/** Texts, PDFs and pictures that came with a pack. */
export function Documents({
  documents,
  coverId,
  onCover,
}: {
  documents: readonly DocumentLine[];
  coverId: number | null;
  onCover: (id: number | null) => void;
}) {
  if (documents.length === 0) return <p className="quiet mt-1">Nothing came with it but sounds.</p>;
  return (
    <ul className="mt-1 flex flex-col gap-2">
      {documents.map(({ id, path, kind, bytes }) => (
        <li key={id} className="flex items-center gap-2">
          {kind === 'picture' ? (
            <img src={`/media/document/${id}`} alt="" className="size-10 rounded-sm object-cover" loading="lazy" />
          ) : (
            <FileText className="quiet mx-2.5 size-5" aria-hidden="true" />
          )}
          <span className="min-w-0 flex-1">
            <a href={`/media/document/${id}`} target="_blank" rel="noreferrer" className="link max-w-full truncate" title={path}>
              {path.split('/').at(-1)}
            </a>
            <span className="quiet block">{bytes < 100_000 ? `${Math.max(1, Math.round(bytes / 1000))} kB` : megabytes(bytes)}</span>
          </span>
          {kind === 'picture' && (
            <button className="btn btn-xs" aria-pressed={id === coverId} onClick={() => onCover(id === coverId ? null : id)}>
              {id === coverId ? 'is the cover' : 'as cover'}
            </button>
          )}
        </li>
      ))}
    </ul>
  );
}
