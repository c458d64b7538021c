import { useEngineState } from '~/audio/hooks';
import { factLabel, inWords, percent } from '~/ui/fact-words';
import { FamilyMark } from '~/ui/family-mark';
import { Waveform } from '~/ui/waveform';
import type { DoubtProps } from './doubt-row';

/** The same question as a card, for looking at many at once. */
export function DoubtCard({ id, doubt, answers, selected, marked, onHear, onMark, onAnswer }: DoubtProps) {
  const { row, attribute } = doubt,
    sounding = useEngineState((state) => state.candidate?.row.id === row.id);
  return (
    <div
      id={id}
      role="row"
      aria-selected={selected}
      aria-label={`${row.title}: ${factLabel(attribute)}? ${answers.map(({ value }, k) => `${k + 1}, ${inWords(attribute, value, row.source.barBeats)}`).join('; ')}${marked ? '; marked' : ''}`}
      className={`flex cursor-pointer flex-col gap-1 rounded-sm border p-2 ${selected ? 'border-primary bg-base-300' : 'border-base-300 hover:bg-base-200'}`}
      onClick={onHear}
    >
      <span role="gridcell" className="flex items-center gap-1.5">
        <input
          type="checkbox"
          tabIndex={-1}
          className="checkbox checkbox-sm size-6"
          aria-label={`Mark ${row.title}, ${factLabel(attribute).toLowerCase()}`}
          checked={marked}
          onClick={(event) => event.stopPropagation()}
          onChange={onMark}
        />
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
        {answers.slice(0, 3).map((each, k) => (
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
        ))}
      </span>
    </div>
  );
}
