import { hasFilters, type LoopQuery } from '~core/search/query';
import { RoomLink } from '~/ui/room-link';

/** What is said where a list of loops has no row. */
export function EmptyList({ query }: { query: LoopQuery }) {
  return (
    <div className="flex flex-1 flex-col items-center justify-center gap-2 text-center">
      {hasFilters(query) ? (
        <>
          <p className="text-lg font-semibold">Nothing fits all of that.</p>
          <p className="quiet">Take a step back: remove a chip or a word above, or clear all.</p>
        </>
      ) : (
        <>
          <p className="text-lg font-semibold">The library is empty.</p>
          <p className="quiet">Bring in a vendor’s zip or a folder of loops.</p>
          <RoomLink to="/packs" className="btn btn-primary btn-sm mt-2">
            Import a pack
          </RoomLink>
        </>
      )}
    </div>
  );
}
