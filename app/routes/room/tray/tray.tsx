import { memo, useCallback, useDeferredValue } from 'react';
import { useDraggable } from '@dnd-kit/core';
import { CornerDownLeft, GripVertical, Square } from 'lucide-react';
import { RoomLink } from '~/ui/room-link';
import { describeFit } from '~core/arrangement/fit-request';
import { useEngine, useEngineState } from '~/audio/hooks';
import { digitOf } from '~/audio/shortlist';
import type { Candidate } from '~/audio/store';
import { Canvas } from '~/ui/canvas';
import { FamilyMark } from '~/ui/family-mark';
import { keyText, lengthWords, tempoText } from '~/ui/format';
import { benchLoopId, isOutside } from '~contracts/whole-loop';
import { usePlace } from '~/ui/place';
import { Playhead } from '~/ui/playhead';
import { useProject } from '~/ui/project-store';
import { readToken } from '~/ui/theme';
import { decodeOverview, drawWave } from '~/ui/waveform';
import { AgainstChords } from './against-chords';
import { ShortlistRow } from './shortlist-row';
import { Spectra } from './spectra';
import { Switches } from './switches';
import { OverridesRow } from './overrides-row';

const phaseWords: Readonly<Record<Candidate['phase'], string>> = {
  fitting: 'fitting …',
  waiting: 'comes in on the next line',
  sounding: 'sounding',
  failed: 'could not be fitted',
};

/** The candidate on every page: its waveform, what is done to it, its switches, the shortlist, and the way into the project. */
export function Tray() {
  const engine = useEngine(),
    // With the arrow held, keys come first: what is said of a candidate is drawn in the pauses between them.
    present = useEngineState((state) => state.candidate),
    candidate = useDeferredValue(present),
    playing = useEngineState((state) => state.playing),
    shortlist = useEngineState((state) => state.shortlist),
    inRoom = useProject((state) => state.project !== null);
  const place = usePlace(),
    // Blind, nothing may tell which one it is.
    hiddenDigit = candidate && shortlist.blind ? digitOf(shortlist, candidate.row.id) : null;
  return (
    <section aria-label="Audition tray" className="tray shrink-0">
      {candidate && hiddenDigit === null && <OverridesRow candidate={candidate} />}
      {(candidate || shortlist.entries.length > 0) && <ShortlistRow />}
      <div className="flex h-30 items-stretch gap-4 border-t border-base-300 bg-base-200 px-3 py-2">
        {candidate && hiddenDigit !== null ? (
          <div className="flex flex-1 items-center gap-5">
            <span className="text-5xl font-semibold tabular-nums">{hiddenDigit}</span>
            <p className="quiet max-w-md" role="status" aria-live="polite">
              Number {hiddenDigit} is {phaseWords[candidate.phase]}. Names are hidden, levels even: choose by ear, then reveal.
            </p>
          </div>
        ) : candidate ? (
          <>
            <Words candidate={candidate} />
            <CandidateWave candidate={candidate} />
            {playing && <Spectra />}
          </>
        ) : (
          <div className="flex flex-1 flex-col justify-center gap-2">
            <p className="quiet max-w-xl">
              {playing
                ? 'Click a loop, or press ↓ in the list: it comes in on the next bar, in the project’s tempo and key.'
                : inRoom
                  ? 'Click a loop to hear it alone. Play the project (Space) to hear candidates inside it.'
                  : 'Click a loop to hear it as recorded. Play (Space) to hear candidates at a tempo of your own.'}
            </p>
          </div>
        )}
        <Switches />
        <div className="flex w-28 shrink-0 flex-col justify-center gap-2">
          <button className="btn btn-primary btn-sm" disabled={!present} onClick={() => present && place({ row: present.row })}>
            <CornerDownLeft className="size-4" /> Place …
          </button>
          <button className="btn btn-sm" disabled={!present} onClick={() => engine.audition.stop()}>
            <Square className="size-3.5" fill="currentColor" /> Silence
          </button>
        </div>
      </div>
    </section>
  );
}

const Words = memo(function Words({ candidate }: { candidate: Candidate }) {
  const { row, alone, fitted, message, phase } = candidate;
  return (
    <div className="flex w-68 shrink-0 flex-col justify-between text-[0.93rem] leading-tight">
      <div className="flex items-start gap-2">
        <FamilyMark family={row.source.family} />
        <div className="min-w-0">
          <RoomLink
            to={row.id === benchLoopId ? '/workbench' : isOutside(row.id) ? '/exchange' : `/loops/${row.id}`}
            className="block truncate font-semibold hover:underline"
            title={row.fileName}
          >
            {row.title}
          </RoomLink>
          <span className="quiet block truncate">{row.packName}</span>
        </div>
      </div>
      <p className="line-clamp-2" role="status" aria-live="polite">
        <strong>{alone ? 'as recorded' : describeFit(fitted)}</strong>
        <span className="quiet"> · {message ?? (alone && phase === 'sounding' ? 'alone' : phaseWords[phase])}</span>
      </p>
      <p className="quiet truncate">
        {[
          ...(row.source.tempoBpm === null ? [] : [tempoText(row.source.tempoBpm)]),
          keyText(row.source),
          lengthWords({ ...row, barBeats: row.source.barBeats }),
        ].join(' · ')}
      </p>
    </div>
  );
});

/** The large waveform with its bar lines and playhead; it can be dragged into the ribbon or onto a track. */
const CandidateWave = memo(function CandidateWave({ candidate }: { candidate: Candidate }) {
  const engine = useEngine();
  const { attributes: _, listeners, setNodeRef } = useDraggable({ id: 'tray-candidate', data: { row: candidate.row } });
  const { overview, source } = candidate.row;
  const draw = useCallback(
    (context: CanvasRenderingContext2D, width: number, height: number) =>
      drawWave(context, 0, 0, width, height, {
        overview: decodeOverview(overview),
        beats: source.beats ?? 0,
        barBeats: source.barBeats,
        ink: readToken('--wave'),
        strongInk: readToken('--wave-strong'),
      }),
    [overview, source.beats, source.barBeats],
  );
  return (
    <div
      ref={setNodeRef}
      {...listeners}
      className="relative min-w-0 flex-1 cursor-grab touch-none overflow-hidden rounded-sm border border-base-300 bg-base-100"
      title="Drag into the project"
    >
      <Canvas
        draw={draw}
        className="absolute inset-0 size-full"
        label={`Waveform of ${candidate.row.title}, ${lengthWords({ ...candidate.row, barBeats: source.barBeats })}`}
      />
      <GripVertical className="quiet absolute right-1 top-1 size-4" aria-hidden="true" />
      <AgainstChords candidate={candidate} />
      <Playhead at={() => engine.audition.phase()} />
    </div>
  );
});
