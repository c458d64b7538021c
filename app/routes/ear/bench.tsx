import { useEffect } from 'react';
import { useFetcher } from 'react-router';
import { attributeRow } from '~core/analysis/attributes/registry';
import { AnotherValue } from '~/ui/another-value';
import { CheckByEar } from '~/ui/ear/check-by-ear';
import { factLabel, inWords, percent } from '~/ui/fact-words';
import { RoomLink } from '~/ui/room-link';
import type { LoopDetail } from '~contracts/loop-detail';
import type { Doubt } from '~server/services/doubts.server';

/** What one compares the selected loop with, and why its fact is in doubt. */
export function Bench({
  doubt: { row, attribute, value, confidence, reasons },
  onAnswer,
}: {
  doubt: Doubt;
  onAnswer: (value: unknown) => void;
}) {
  const more = useFetcher<{ detail: LoopDetail }>(),
    { load } = more;
  useEffect(() => {
    // Not for those that are only passed by.
    const timer = setTimeout(() => void load(`/loops/${row.id}`), 150);
    return () => clearTimeout(timer);
  }, [load, row.id]);
  return (
    <div className="panel p-4">
      <h2 className="truncate">
        <RoomLink to={`/loops/${row.id}`} className="hover:underline">
          {row.title}
        </RoomLink>
      </h2>
      <p className="quiet truncate">{row.fileName}</p>
      <p className="mt-2">
        {factLabel(attribute)} is probably <strong>{inWords(attribute, value, row.source.barBeats)}</strong>, {percent(confidence)}
        {reasons.length > 0 && <span className="quiet">: {reasons.join('; ')}</span>}
      </p>
      <div className="mt-2 flex items-center gap-2">
        None of these?{' '}
        <AnotherValue
          attribute={attribute}
          onCorrect={(_, field) => {
            const other = attributeRow(attribute).fromText(field);
            if (other !== null) onAnswer(other);
          }}
        />
      </div>
      {more.data && more.data.detail.row.id === row.id ? (
        <CheckByEar detail={more.data.detail} />
      ) : (
        <p className="quiet mt-6" role="status">
          laying out what to compare it with …
        </p>
      )}
    </div>
  );
}
