import { memo } from 'react';
import { useDraggable } from '@dnd-kit/core';
import { formatDistanceToNowStrict } from 'date-fns';
import { AudioLines, Music2, Pause, Play, Star } from 'lucide-react';
import { RoomLink } from '~/ui/room-link';
import { loopKinds } from '~core/analysis/attributes/loop-kinds';
import type { Project } from '~core/arrangement/tree';
import { FamilyMark } from '~/ui/family-mark';
import { barsText, doubtMark, instrumentText, keyText, secondsText, shiftText, signed, stretchPercent, tempoText } from '~/ui/format';
import { Waveform } from '~/ui/waveform';
import type { LoopCard } from '~contracts/loop-card';
import type { FoundCard } from '~server/services/look-up.server';
import { FitCell } from './fit-cell';
import { RowMenu, type RowMenuActs } from './row-menu';
import { columns, roomy, spacious } from './columns';

/** What a row can ask of the list; the functions stay the same for the list's life. */
export interface RowActs extends RowMenuActs {
  /** A click: hears it, or with ctrl or shift chooses it. */
  readonly click: (index: number, row: LoopCard, keys: { readonly adds: boolean; readonly extends: boolean }) => void;
  readonly place: (row: LoopCard) => void;
  readonly favourite: (row: LoopCard) => void;
}

interface Props {
  readonly index: number;
  readonly row: FoundCard | null;
  readonly selected: boolean;
  /** Chosen to be changed together with others. */
  readonly chosen: boolean;
  readonly sounding: boolean;
  readonly project: Project | null;
  readonly acts: RowActs;
}

/** One loop in the list; a click anywhere starts and stops it. */
export const LoopListRow = memo(function LoopListRow({ index, row, selected, chosen, sounding, project, acts }: Props) {
  if (!row)
    return (
      <div id={`loop-${index}`} role="row" aria-rowindex={index + 1} className={`${columns} h-full`}>
        <span role="gridcell" aria-label="loading" className="h-6 rounded-sm bg-base-200" />
        <span className="h-3 w-40 rounded-sm bg-base-200" />
      </div>
    );
  const { source } = row,
    stretch = project ? stretchPercent(source, project.tempoBpm) : null,
    shift = project ? shiftText(source, project.key) : null;
  return (
    <div
      id={`loop-${index}`}
      role="row"
      aria-rowindex={index + 1}
      aria-selected={chosen}
      data-under-cursor={selected || undefined}
      className={`${columns} group h-full cursor-pointer border-b border-base-200 ${sounding ? 'bg-base-300' : selected ? 'bg-base-200' : 'hover:bg-base-200'} ${chosen ? 'inset-shadow-chosen' : ''}`}
      onClick={(event) => acts.click(index, row, { adds: event.ctrlKey || event.metaKey, extends: event.shiftKey })}
      onMouseDown={(event) => event.shiftKey && event.preventDefault()}
    >
      <Handle row={row} sounding={sounding} />
      <span role="gridcell" className="min-w-0">
        <RoomLink
          to={`/loops/${row.id}`}
          className="block truncate font-medium hover:underline"
          tabIndex={-1}
          onClick={(event) => event.stopPropagation()}
        >
          {row.title}
        </RoomLink>
        <span className="quiet block truncate text-[0.79rem]">
          {row.stars !== null && (
            <span aria-label={`${row.stars} of 5 stars`} style={{ color: 'var(--color-accent)' }}>
              {'★'.repeat(row.stars)}{' '}
            </span>
          )}
          {row.note ? <em>{row.note}</em> : row.fileName}
        </span>
      </span>
      <span role="gridcell" className="flex min-w-0 items-center gap-1.5">
        <FamilyMark family={source.family} />
        <span className="min-w-0">
          <span className="block truncate">{instrumentText(source)}</span>
          {source.kind !== 'loop' && <span className="quiet block truncate text-[0.79rem]">{loopKinds[source.kind].toLowerCase()}</span>}
        </span>
      </span>
      <span role="gridcell">
        <span className="block">
          {tempoText(source.tempoBpm)}
          <span className="text-warning font-semibold" title="not sure">
            {doubtMark(row.tempoConfidence)}
          </span>
        </span>
        {stretch !== null && (
          <span className={`block text-[0.79rem] ${Math.abs(stretch) > 15 ? 'text-warning font-semibold' : 'quiet'}`}>
            {Math.abs(stretch) < 0.05 ? 'fits' : `${signed(stretch, 1)} %`}
          </span>
        )}
      </span>
      <span role="gridcell">
        <span className="block truncate">
          {keyText(source)}
          <span className="text-warning font-semibold" title="not sure">
            {source.key ? doubtMark(row.keyConfidence) : ''}
          </span>
        </span>
        {shift && <span className="quiet block text-[0.79rem]">{shift}</span>}
      </span>
      <span role="gridcell" className="text-right" title={secondsText(row.lengthSeconds)}>
        {row.bars === null ? <span className="quiet text-[0.79rem]">{secondsText(row.lengthSeconds)}</span> : barsText(row.bars)}
        {row.bars !== null && row.meter !== '4/4' && (
          <span className="quiet block text-[0.79rem]" title={`${row.source.barBeats} beats a bar`}>
            of {row.meter === 'unknown' ? row.source.barBeats : row.meter}
          </span>
        )}
      </span>
      <span role="gridcell" className={`min-w-0 ${spacious}`}>
        <span className="block truncate">{row.packName}</span>
        {row.setStem && <span className="quiet block truncate text-[0.79rem]">set: {row.setStem}</span>}
      </span>
      <span
        role="gridcell"
        className={`quiet text-[0.79rem] ${roomy}`}
        title={`${row.addedBy}, ${row.addedAt.slice(0, 16).replace('T', ' ')}`}
        suppressHydrationWarning
      >
        {formatDistanceToNowStrict(new Date(row.addedAt))}
      </span>
      <span role="gridcell" className="min-w-0">
        <FitCell fit={row.fit} title={row.title} />
      </span>
      <span role="gridcell" className="flex">
        <button
          tabIndex={-1}
          className={`btn btn-ghost btn-xs btn-square ${row.favourite ? '' : 'opacity-60'}`}
          aria-label={row.favourite ? `Take ${row.title} from favourites` : `Make ${row.title} a favourite`}
          aria-pressed={row.favourite}
          onClick={(event) => {
            event.stopPropagation();
            acts.favourite(row);
          }}
        >
          <Star className="size-4" fill={row.favourite ? 'var(--color-accent)' : 'none'} />
        </button>
        <RowMenu row={row} acts={acts} onPlace={() => acts.place(row)} />
      </span>
    </div>
  );
});

/** The waveform, from which the loop can be dragged into the project. */
function Handle({ row, sounding }: { row: LoopCard; sounding: boolean }) {
  const { listeners, setNodeRef } = useDraggable({ id: `row-${row.id}`, data: { row } });
  const Icon = sounding ? Pause : Play;
  return (
    <span role="gridcell" ref={setNodeRef} {...listeners} className="relative flex h-8 touch-none items-center gap-2">
      <Icon className={`size-3.5 shrink-0 ${sounding ? 'text-primary' : 'quiet'}`} fill="currentColor" aria-hidden="true" />
      <Waveform
        overview={row.overview}
        beats={row.source.beats ?? 0}
        barBeats={row.source.barBeats}
        className="h-8 w-full"
        ink={sounding ? '--playhead' : '--wave'}
      />
      {row.source.media === 'midi' ? (
        <Music2 className="quiet size-3.5 shrink-0" aria-label="notes" />
      ) : (
        <AudioLines className="quiet size-3.5 shrink-0" aria-label="audio" />
      )}
    </span>
  );
}
