import { Pause, Play } from 'lucide-react';
import { useEngineState } from '~/audio/hooks';
import { factLabel } from '~/ui/fact-words';
import { FamilyMark } from '~/ui/family-mark';
import { Waveform } from '~/ui/waveform';
import { whyNotTheLikeliest } from './answers';
import { Answers, Mark, questionOf, type DoubtProps } from './doubt-parts';

/** One question: which loop, which fact, and the answers by number. */
export function DoubtRow(props: DoubtProps) {
  const { id, doubt, selected, onHear } = props,
    { row, attribute } = doubt,
    why = whyNotTheLikeliest(doubt),
    sounding = useEngineState((state) => state.candidate?.row.id === row.id),
    Icon = sounding ? Pause : Play;
  return (
    <div
      id={id}
      role="row"
      aria-selected={selected}
      aria-label={questionOf(props)}
      className={`grid shrink-0 cursor-pointer grid-cols-[1.5rem_7rem_minmax(0,1fr)] items-center gap-x-3 border-b border-base-200 px-2 py-1.5 ${selected ? 'bg-base-300' : 'hover:bg-base-200'}`}
      onClick={onHear}
    >
      <span role="gridcell">
        <Mark {...props} />
      </span>
      <span role="gridcell" className="flex h-8 items-center gap-2">
        <Icon className={`size-3.5 shrink-0 ${sounding ? 'text-primary' : 'quiet'}`} fill="currentColor" aria-hidden="true" />
        <Waveform
          overview={row.overview}
          beats={row.source.beats ?? 0}
          barBeats={row.source.barBeats}
          className="h-8 w-full"
          ink={sounding ? '--playhead' : '--wave'}
        />
      </span>
      <span role="gridcell" className="min-w-0">
        <span className="flex items-center gap-1.5">
          <FamilyMark family={row.source.family} />
          <span className="truncate font-semibold">{row.title}</span>
          <span className="quiet truncate text-[0.86rem]">{row.packName}</span>
        </span>
        <span className="mt-1 flex flex-wrap items-center gap-1.5">
          <span className="caps w-20">{factLabel(attribute)}</span>
          <Answers {...props} />
          {why && <span className="quiet text-[0.86rem]">{why}</span>}
        </span>
      </span>
    </div>
  );
}
