import type { Candidate } from '~core/analysis/facts';
import { factLabel, inWords, percent } from '~/ui/fact-words';
import type { Doubt } from '~server/services/doubts.server';

/** What a question of the queue is shown with, as a row or a card. */
export interface DoubtProps {
  readonly id: string;
  readonly doubt: Doubt;
  readonly answers: readonly Candidate[];
  readonly selected: boolean;
  readonly marked: boolean;
  readonly onHear: () => void;
  readonly onMark: () => void;
  readonly onAnswer: (answer: Candidate) => void;
}

/** The question in words, for who does not see it. */
export const questionOf = ({ doubt: { row, attribute }, answers, marked }: DoubtProps): string =>
  `${row.title}: ${factLabel(attribute)}? ${answers.map(({ value }, k) => `${k + 1}, ${inWords(attribute, value, row.source.barBeats)}`).join('; ')}${marked ? '; marked' : ''}`;

/** Marks it, for agreeing with many. */
export function Mark({ doubt: { row, attribute }, marked, onMark }: DoubtProps) {
  return (
    <input
      type="checkbox"
      tabIndex={-1}
      className="checkbox checkbox-sm size-6"
      aria-label={`Mark ${row.title}, ${factLabel(attribute).toLowerCase()}`}
      checked={marked}
      onClick={(event) => event.stopPropagation()}
      onChange={onMark}
    />
  );
}

/** Its answers by number, the guess first. */
export function Answers({ doubt: { row, attribute }, answers, onAnswer }: DoubtProps) {
  return answers.map((each, k) => (
    <button
      key={k}
      tabIndex={-1}
      className={`btn btn-xs max-w-full ${k === 0 ? 'btn-outline' : ''}`}
      onClick={(event) => {
        event.stopPropagation();
        onAnswer(each);
      }}
    >
      <span className="quiet">{k + 1}</span> <span className="truncate">{inWords(attribute, each.value, row.source.barBeats)}</span>
      {each.probability > 0.005 && <span className="quiet">{percent(each.probability)}</span>}
    </button>
  ));
}
