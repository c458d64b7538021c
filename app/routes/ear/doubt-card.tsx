import { useEngineState } from '~/audio/hooks';
import { factLabel } from '~/ui/fact-words';
import { FamilyMark } from '~/ui/family-mark';
import { Waveform } from '~/ui/waveform';
import { Answers, Mark, questionOf, type DoubtProps } from './doubt-parts';

const answersShown = 3;

/** A question as a card, for looking at many at once. */
export function DoubtCard(props: DoubtProps) {
  const {
      id,
      doubt: { row, attribute },
      answers,
      selected,
      onHear,
    } = props,
    sounding = useEngineState((state) => state.candidate?.row.id === row.id);
  return (
    <div
      id={id}
      role="row"
      aria-selected={selected}
      aria-label={questionOf(props)}
      className={`flex cursor-pointer flex-col gap-1 rounded-sm border p-2 ${selected ? 'border-primary bg-base-300' : 'border-base-300 hover:bg-base-200'}`}
      onClick={onHear}
    >
      <span role="gridcell" className="flex items-center gap-1.5">
        <Mark {...props} />
        <FamilyMark family={row.source.family} />
        <span className="min-w-0 flex-1 truncate font-semibold" title={`${row.title}, ${row.packName}`}>
          {row.title}
        </span>
      </span>
      <Waveform
        overview={row.overview}
        beats={row.source.beats ?? 0}
        barBeats={row.source.barBeats}
        className="h-7 w-full"
        ink={sounding ? '--playhead' : '--wave'}
      />
      <span role="gridcell" className="flex flex-wrap items-center gap-1">
        <span className="caps w-full">{factLabel(attribute)}</span>
        <Answers {...props} answers={answers.slice(0, answersShown)} />
      </span>
    </div>
  );
}
