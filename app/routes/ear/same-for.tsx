import { ruleInWords } from '~core/library/rules';
import { factLabel, inWords } from '~/ui/fact-words';
import type { LastAnswer, Offer } from './use-answers';

/** What was just said, and for which others it could be said at once: how many, before it is done. */
export function SameFor({
  last,
  marked,
  offer,
  onSame,
  onFollow,
  onDecline,
}: {
  last: LastAnswer | null;
  /** Of the marked, those it could be said of. */
  marked: readonly number[];
  offer: Offer | null;
  onSame: (loopIds: readonly number[]) => void;
  onFollow: (offer: Offer) => void;
  onDecline: () => void;
}) {
  if (!last) return null;
  const { row, attribute } = last.doubt,
    idsOf = (some: readonly { readonly loopId: number }[]) => some.map(({ loopId }) => loopId),
    button = (key: string, ids: readonly number[], words: string) =>
      ids.length > 0 && (
        <button className="btn btn-xs" onClick={() => onSame(ids)}>
          <kbd className="kbd kbd-xs">{key}</kbd> {words} {ids.length}
        </button>
      );
  return (
    <div className="mt-2 flex flex-col gap-1.5 rounded-sm border border-base-300 bg-base-200 px-3 py-2" role="status" data-same-for>
      {offer ? (
        <p className="flex flex-wrap items-center gap-2">
          Three times in “{row.packName}” you {ruleInWords(offer.rule, attribute)}. For {offer.loopIds.length} more of that pack, too?
          <button className="btn btn-xs btn-primary" onClick={() => onFollow(offer)}>
            <kbd className="kbd kbd-xs">R</kbd> Do it for {offer.loopIds.length}
          </button>
          <button className="btn btn-xs" onClick={onDecline}>
            No
          </button>
        </p>
      ) : (
        <p className="flex flex-wrap items-center gap-2">
          <span className="min-w-0 truncate">
            {row.title}: {factLabel(attribute).toLowerCase()} {inWords(attribute, last.value, row.source.barBeats)}.
          </span>
          {last.ofPack.length > 0 || marked.length > 0 ? (
            <>
              The same for
              {button('S', idsOf(last.ofSet), 'the rest of its set,')}
              {button('P', idsOf(last.ofPack), 'all in doubt in its pack,')}
              {button('M', marked, 'the marked,')}
            </>
          ) : (
            <span className="quiet">No other of its pack is in doubt on that.</span>
          )}
        </p>
      )}
    </div>
  );
}
