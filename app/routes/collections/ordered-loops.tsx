import { useRef, useState } from 'react';
import { DndContext, KeyboardSensor, PointerSensor, useDraggable, useDroppable, useSensor, useSensors } from '@dnd-kit/core';
import { GripVertical, Pause, Play } from 'lucide-react';
import type { WholeLoop } from '~contracts/whole-loop';
import { useEngine, useEngineState } from '~/audio/hooks';
import { api } from '~/ui/api';
import { askOrTell } from '~/ui/ask';
import { FamilyMark } from '~/ui/family-mark';
import { instrumentText, keyText, tempoText } from '~/ui/format';
import { RoomLink } from '~/ui/room-link';
import { useRenewal } from '~/ui/use-renewal';
import { Waveform } from '~/ui/waveform';
import type { CollectionLine } from '~server/services/collections.server';
import { inLocalOrder } from './local-order';

/** The loops of a collection in its own order, which a drag, or Alt and the arrows, change. */
export function OrderedLoops({ collection, rows, isOwn }: { collection: CollectionLine; rows: readonly WholeLoop[]; isOwn: boolean }) {
  const [put, setPut] = useState<{ readonly ids: readonly number[]; readonly behind: readonly WholeLoop[] } | null>(null),
    [pending, setPending] = useState(0),
    renew = useRenewal(),
    sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }), useSensor(KeyboardSensor)),
    // What somebody else puts in or moves is shown as soon as what was done here is kept.
    order = inLocalOrder(rows, put && (pending > 0 || put.behind === rows) ? put.ids : null),
    // One order after the other is sent, so that the last stays.
    line = useRef(Promise.resolve());
  const send = async (ids: readonly number[]) => {
    const body = new URLSearchParams(ids.map((id) => ['loopId', String(id)]));
    if ((await askOrTell(api.collectionOrder(collection.id), { method: 'put', body }, 'The order could not be kept.')) === null)
      setPut((shown) => (shown?.ids === ids ? null : shown));
    await renew();
    setPending((count) => count - 1);
  };
  const move = (from: number, to: number) => {
    if (from === to || to < 0 || to >= order.length) return;
    const ids = order.map(({ id }) => id);
    ids.splice(to, 0, ...ids.splice(from, 1));
    setPut({ ids, behind: rows });
    setPending((count) => count + 1);
    line.current = line.current.then(() => send(ids));
  };
  return (
    <section aria-labelledby="open-title">
      <div className="flex items-baseline gap-3">
        <h2 id="open-title">{collection.name}</h2>
        <RoomLink to={`/?collection=${collection.id}`} className="link">
          in the Library
        </RoomLink>
        {isOwn && order.length > 1 && <span className="quiet">drag, or Alt and arrows, to order</span>}
      </div>
      {order.length === 0 ? (
        <p className="quiet mt-2">Nothing is in it yet.</p>
      ) : (
        <DndContext
          sensors={sensors}
          onDragEnd={({ active, over }) => over && move(Number(active.data.current?.index), Number(over.data.current?.index))}
        >
          <ol className="mt-2 divide-y divide-base-300 border-y border-base-300">
            {order.map((row, index) => (
              <Line key={row.id} row={row} index={index} isOwn={isOwn} onMove={(by) => move(index, index + by)} />
            ))}
          </ol>
        </DndContext>
      )}
    </section>
  );
}

function Line({ row, index, isOwn, onMove }: { row: WholeLoop; index: number; isOwn: boolean; onMove: (by: 1 | -1) => void }) {
  const engine = useEngine(),
    isSounding = useEngineState((state) => state.candidate?.row.id === row.id),
    {
      attributes,
      listeners,
      setNodeRef: handle,
      transform,
      isDragging,
    } = useDraggable({ id: `line-${row.id}`, data: { index }, disabled: !isOwn }),
    { setNodeRef: target, isOver } = useDroppable({ id: `place-${row.id}`, data: { index } }),
    Icon = isSounding ? Pause : Play;
  return (
    <li
      ref={target}
      className={`flex h-11 items-center gap-3 ${isOver && !isDragging ? 'inset-shadow-chosen bg-base-200' : ''} ${isDragging ? 'relative z-10 bg-base-300' : ''}`}
      style={transform ? { transform: `translateY(${transform.y}px)` } : undefined}
      onKeyDown={(event) => {
        if (!isOwn || !event.altKey || (event.key !== 'ArrowUp' && event.key !== 'ArrowDown')) return;
        event.preventDefault();
        onMove(event.key === 'ArrowUp' ? -1 : 1);
      }}
    >
      {isOwn && (
        <button
          ref={handle}
          {...attributes}
          {...listeners}
          className="btn btn-ghost btn-xs btn-square touch-none"
          aria-label={`Move ${row.title}`}
        >
          <GripVertical className="size-4" />
        </button>
      )}
      <button
        className="btn btn-sm btn-square"
        aria-label={`${isSounding ? 'Silence' : 'Hear'} ${row.title}`}
        onClick={() => engine.audition.toggle(row)}
      >
        <Icon className="size-4" fill="currentColor" />
      </button>
      <Waveform overview={row.overview} beats={row.source.beats ?? 0} barBeats={row.source.barBeats} className="h-8 w-28" />
      <FamilyMark family={row.source.family} />
      <span className="min-w-0 flex-1">
        <RoomLink to={`/loops/${row.id}`} className="link block max-w-full truncate font-medium">
          {row.title}
        </RoomLink>
        <span className="quiet block truncate text-[0.79rem]">
          {[instrumentText(row.source), tempoText(row.source.tempoBpm), keyText(row.source), row.packName].join(' · ')}
        </span>
      </span>
    </li>
  );
}
