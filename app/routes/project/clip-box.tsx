import { memo, useState } from 'react';
import { VolumeX } from 'lucide-react';
import { snapped } from '~core/arrangement/grid';
import { leastClipGainDb, mostClipGainDb, type Clip } from '~core/arrangement/tree';
import { signed } from '~/ui/format';

/** How a clip is chosen: by itself; beside others; no longer; by itself unless it is chosen already. */
export type Choosing = 'alone' | 'add' | 'leave' | 'take';

/** What a clip's box asks of the timeline; the same object for all, so that a change of one draws no other. */
export interface ClipHands {
  readonly choose: (clipId: string, how: Choosing) => void;
  /** Lets the chosen clips begin elsewhere. @param toY of the window @param copies whether their copies go */
  readonly drop: (clipId: string, beats: number, toY: number, copies: boolean) => void;
  readonly set: (clipId: string, changes: Partial<Clip>) => void;
  readonly trimStart: (beats: number) => void;
  readonly lengthen: (beats: number) => void;
  readonly fade: (fades: { readonly fadeInBeats?: number; readonly fadeOutBeats?: number }) => void;
  readonly press: (event: React.KeyboardEvent) => boolean;
  readonly menu: (clipId: string, x: number, y: number) => void;
  readonly hold: (clipId: string | null) => void;
  /** How wide a beat is now. */
  readonly beatPixels: () => number;
}

type Part = 'move' | 'start' | 'end' | 'fade-in' | 'fade-out' | 'gain';
interface Drag {
  readonly part: Part;
  readonly fromX: number;
  readonly fromY: number;
  /** In beats, snapped; in dB for the gain. */
  readonly by: number;
  readonly byY: number;
  /** Whether it was chosen before it was taken hold of. */
  readonly wasChosen: boolean;
}

/** How much of a clip can be shown. Its place and width are shares of its lane's, so that a zoom draws no box anew. */
export type ClipRoom = 'none' | 'name' | 'handles';

export interface ClipBoxProps {
  readonly clip: Clip;
  readonly title: string;
  readonly colour: number;
  /** What there is room for: its name; its handles too. */
  readonly room: ClipRoom;
  /** How long the lane is on which it lies. */
  readonly laneBeats: number;
  readonly barBeats: number;
  readonly stepBeats: number | null;
  /** Whether its sound cannot be had. */
  readonly isLost: boolean;
  readonly selected: boolean;
  /** Who else holds it; null for nobody. */
  readonly heldBy: string | null;
  readonly hands: ClipHands;
}

const dbPerPixel = 0.25,
  /** Dragged so far up or down, it goes to another track. */
  rowAwayPixels = 24;

/** Where a clip lies, in bars from 1, as it is said: `bars 5 to 12`. */
export function placeInWords({ startBeat, lengthBeats }: Pick<Clip, 'startBeat' | 'lengthBeats'>, barBeats: number): string {
  const number = (value: number) => String(Number(value.toFixed(2))),
    from = startBeat / barBeats + 1,
    until = (startBeat + lengthBeats) / barBeats;
  return until - from < 1e-6 && until - from > -1e-6 ? `bar ${number(from)}` : `bars ${number(from)} to ${number(until)}`;
}

/** A clip on its bars: it is dragged by its middle, its ends, its fades and its level. Its sound is drawn by the lane. */
export const ClipBox = memo(function ClipBox({
  clip,
  title,
  colour,
  room,
  laneBeats,
  barBeats,
  stepBeats,
  isLost,
  selected,
  heldBy,
  hands,
}: ClipBoxProps) {
  const [drag, setDrag] = useState<Drag | null>(null),
    by = (part: Part) => (drag?.part === part ? drag.by : 0),
    startBeat = Math.max(0, clip.startBeat + by('move') + by('start')),
    lengthBeats = Math.max(1 / 16, clip.lengthBeats + by('end') - by('start')),
    fadeIn = Math.min(lengthBeats, Math.max(0, clip.fadeInBeats + by('fade-in'))),
    fadeOut = Math.min(lengthBeats, Math.max(0, clip.fadeOutBeats - by('fade-out'))),
    gainDb = Math.min(mostClipGainDb, Math.max(leastClipGainDb, clip.gainDb + by('gain'))),
    share = (beats: number, of: number, plus = 0) => `calc(${(100 * beats) / of}%${plus === 0 ? '' : ` + ${plus}px`})`;
  const begin = (part: Part) => (event: React.PointerEvent<HTMLElement>) => {
    if (event.button !== 0) return;
    event.stopPropagation();
    const box = event.currentTarget.closest<HTMLElement>('[data-clip]');
    // With others: to be dragged with them. What a click alone means is known when it is let go.
    if (!selected) hands.choose(clip.id, event.shiftKey || event.ctrlKey || event.metaKey ? 'add' : 'alone');
    box?.focus();
    box?.setPointerCapture(event.pointerId);
    setDrag({ part, fromX: event.clientX, fromY: event.clientY, by: 0, byY: 0, wasChosen: selected });
  };
  const onPointerMove = (event: React.PointerEvent) => {
    if (!drag) return;
    const step = event.altKey ? null : stepBeats,
      moved = (event.clientX - drag.fromX) / hands.beatPixels(),
      byY = event.clientY - drag.fromY;
    // What is dragged snaps to the grid of the piece by its edge, not by steps from where it was.
    // What lands does so on a line, wherever it begins.
    const landsAfter = clip.landsAfterBeats ?? 0,
      edge = {
        move: clip.startBeat + landsAfter,
        start: clip.startBeat,
        end: clip.startBeat + clip.lengthBeats,
        'fade-in': 0,
        'fade-out': 0,
        gain: 0,
      }[drag.part],
      isFade = drag.part === 'fade-in' || drag.part === 'fade-out',
      // Under two pixels nothing was dragged.
      beats =
        Math.abs(event.clientX - drag.fromX) < 3 ? 0 : snapped(edge + moved, isFade && step !== null ? Math.min(step, 1 / 4) : step) - edge;
    setDrag({ ...drag, byY, by: drag.part === 'gain' ? Math.round(-byY * dbPerPixel * 2) / 2 : beats });
  };
  const onPointerUp = (event: React.PointerEvent) => {
    if (!drag) return;
    setDrag(null);
    const control = event.ctrlKey || event.metaKey,
      wasDragged = drag.by !== 0 || (drag.part === 'move' && Math.abs(drag.byY) > rowAwayPixels);
    if (!wasDragged) {
      if (drag.wasChosen) hands.choose(clip.id, event.shiftKey || control ? 'leave' : 'alone');
      return;
    }
    switch (drag.part) {
      case 'move':
        hands.drop(clip.id, drag.by, event.clientY, control);
        break;
      case 'start':
        hands.trimStart(drag.by);
        break;
      case 'end':
        hands.lengthen(drag.by);
        break;
      case 'fade-in':
        hands.fade({ fadeInBeats: fadeIn });
        break;
      case 'fade-out':
        hands.fade({ fadeOutBeats: fadeOut });
        break;
      case 'gain':
        hands.set(clip.id, { gainDb });
    }
  };
  return (
    <div
      role="button"
      tabIndex={0}
      data-clip={clip.id}
      aria-label={`${title}, ${placeInWords(clip, barBeats)}${clip.muted ? ', muted' : ''}${isLost ? ', silent: its sound cannot be had' : ''}${heldBy ? `, held by ${heldBy}` : ''}`}
      aria-pressed={selected}
      aria-haspopup="menu"
      className={`group absolute inset-y-1 touch-none overflow-hidden rounded-sm border ${selected ? 'z-1 border-primary outline-1 outline-primary' : ''} ${drag ? 'z-10 cursor-grabbing bg-base-300/60' : 'cursor-grab'} ${clip.muted || isLost ? 'border-dashed' : ''} focus-visible:outline-2 focus-visible:outline-primary`}
      style={{
        left: share(startBeat, laneBeats),
        width: `max(3px, ${share(lengthBeats, laneBeats, -1)})`,
        borderColor: selected ? undefined : heldBy ? 'var(--color-accent)' : `var(--track-${colour})`,
        transform: drag?.part === 'move' && Math.abs(drag.byY) > rowAwayPixels ? `translateY(${drag.byY}px)` : undefined,
      }}
      onPointerDown={begin('move')}
      onPointerMove={onPointerMove}
      onPointerUp={onPointerUp}
      onPointerCancel={() => setDrag(null)}
      onContextMenu={(event) => {
        event.preventDefault();
        if (!selected) hands.choose(clip.id, 'take');
        const box = event.currentTarget.getBoundingClientRect();
        // The menu key tells of no place.
        hands.menu(clip.id, event.clientX || box.left + 8, event.clientY || box.top + 24);
      }}
      onKeyDown={(event) => {
        if (event.key === 'Enter' || (event.key === ' ' && event.shiftKey)) {
          const box = event.currentTarget.getBoundingClientRect();
          hands.menu(clip.id, box.left + 8, box.top + 24);
        } else if (!hands.press(event)) return;
        event.preventDefault();
        event.stopPropagation();
      }}
      onFocus={() => {
        if (!selected) hands.choose(clip.id, 'take');
        hands.hold(clip.id);
      }}
      onBlur={() => hands.hold(null)}
    >
      {(fadeIn > 0 || fadeOut > 0) && (
        <svg
          className="pointer-events-none absolute inset-0 size-full"
          preserveAspectRatio="none"
          viewBox={`0 0 ${lengthBeats} 100`}
          aria-hidden="true"
        >
          {fadeIn > 0 && (
            <path
              d={`M0 0H${fadeIn}Q${fadeIn * 0.35} 25 0 100Z`}
              className="fill-base-100/70 stroke-primary"
              vectorEffect="non-scaling-stroke"
            />
          )}
          {fadeOut > 0 && (
            <path
              d={`M${lengthBeats} 0H${lengthBeats - fadeOut}Q${lengthBeats - fadeOut * 0.35} 25 ${lengthBeats} 100Z`}
              className="fill-base-100/70 stroke-primary"
              vectorEffect="non-scaling-stroke"
            />
          )}
        </svg>
      )}
      {room !== 'none' && (
        <span className="pointer-events-none absolute inset-x-1.5 top-0 flex items-center gap-1 text-[0.79rem] font-medium leading-4">
          {(clip.muted || isLost) && <VolumeX className="size-3 shrink-0" aria-hidden="true" />}
          <span className="truncate">
            {title}
            {clip.shiftSemitones !== 0 && ` (${signed(clip.shiftSemitones)})`}
            {isLost && ' · its sound cannot be had'}
            {heldBy && ` · ${heldBy}`}
          </span>
        </span>
      )}
      <span className="absolute inset-y-0 left-0 w-1.5 cursor-ew-resize" onPointerDown={begin('start')} aria-hidden="true" />
      <span className="absolute inset-y-0 right-0 w-2 cursor-ew-resize" onPointerDown={begin('end')} aria-hidden="true" />
      {room === 'handles' && (
        <>
          <FadeHandle
            at={`min(100% - 10px, ${share(fadeIn, lengthBeats)})`}
            onPointerDown={begin('fade-in')}
            label="Drag: fade in"
            shown={selected || fadeIn > 0}
          />
          <FadeHandle
            at={`max(0px, 100% - ${share(fadeOut, lengthBeats, 9)})`}
            onPointerDown={begin('fade-out')}
            label="Drag: fade out"
            shown={selected || fadeOut > 0}
          />
          <span
            title={`Drag up or down: gain ${signed(gainDb, 1)} dB`}
            data-gain={`${signed(gainDb, 1)} dB`}
            className={`after:content-[attr(data-gain)] absolute bottom-0.5 left-1/2 -translate-x-1/2 cursor-ns-resize whitespace-nowrap rounded-sm bg-base-100/85 px-1 text-[0.79rem] leading-4 ${selected || drag?.part === 'gain' ? '' : 'hidden group-hover:block'}`}
            onPointerDown={begin('gain')}
            aria-hidden="true"
          />
        </>
      )}
      {drag?.part === 'move' && (drag.by !== 0 || Math.abs(drag.byY) > rowAwayPixels) && (
        <span className="pointer-events-none absolute bottom-0.5 left-1 rounded-sm bg-base-100 px-1 text-[0.79rem] leading-4">
          bar {Number((startBeat / barBeats + 1).toFixed(2))}
        </span>
      )}
    </div>
  );
});

/** A handle at the top of a clip by which a fade is drawn out. */
const FadeHandle = ({
  at,
  label,
  shown,
  onPointerDown,
}: {
  at: string;
  label: string;
  shown: boolean;
  onPointerDown: (event: React.PointerEvent<HTMLElement>) => void;
}) => (
  <span
    title={label}
    data-fade={label}
    className={`absolute top-4 size-2.5 cursor-ew-resize rounded-full border border-primary bg-base-100 ${shown ? '' : 'hidden group-hover:block'}`}
    style={{ left: at }}
    onPointerDown={onPointerDown}
    aria-hidden="true"
  />
);
