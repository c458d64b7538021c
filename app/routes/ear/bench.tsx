import { useEffect, useState } from 'react';
import { attributeRow } from '~core/analysis/attributes/registry';
import { api } from '~/ui/api';
import { askingInOrder } from '~/ui/ask';
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
  const [detail, setDetail] = useState<LoopDetail | null>(null),
    [inOrder] = useState(askingInOrder);
  useEffect(() => {
    // Not for those that are only passed by; again when something else is known of it.
    const timer = setTimeout(
      () => void inOrder<{ detail: LoopDetail }>(api.loop(row.id)).then((answer) => answer && setDetail(answer.detail)),
      150,
    );
    return () => clearTimeout(timer);
  }, [inOrder, row]);
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
      {detail && detail.row.id === row.id ? (
        <CheckByEar detail={detail} />
      ) : (
        <p className="quiet mt-6" role="status">
          laying out what to compare it with …
        </p>
      )}
    </div>
  );
}
