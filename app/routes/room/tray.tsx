import { useCallback } from 'react';
import { useDraggable } from '@dnd-kit/core';
import { CornerDownLeft, GripVertical, Square, Volume2 } from 'lucide-react';
import { Link } from 'react-router';
import { describeFit } from '~core/arrangement/fit-request';
import { beatsPerBar } from '~core/units/time';
import { useEngine, useEngineState } from '~/audio/hooks';
import type { Candidate } from '~/audio/store';
import type { StartOn } from '~/audio/transport';
import { Canvas } from '~/ui/canvas';
import { FamilyMark } from '~/ui/family-mark';
import { barsText, keyText, signed, tempoText } from '~/ui/format';
import { usePlace } from '~/ui/place';
import { Playhead } from '~/ui/playhead';
import { readToken } from '~/ui/theme';
import { decodeOverview, drawWave } from '~/ui/waveform';

const phaseWords: Readonly<Record<Candidate['phase'], string>> = {
  fitting: 'fitting …',
  waiting: 'comes in on the next line',
  sounding: 'sounding',
  failed: 'could not be fitted',
};

/** The candidate on every page: its waveform, what was done to it, its switches, and the way into the project. */
export function Tray() {
  const engine = useEngine(),
    candidate = useEngineState((state) => state.candidate),
    settings = useEngineState((state) => state.settings),
    playing = useEngineState((state) => state.playing);
  const place = usePlace();
  return (
    <section aria-label="Audition tray" className="flex h-30 shrink-0 items-stretch gap-4 border-t border-base-300 bg-base-200 px-3 py-2">
      {candidate ? (
        <>
          <div className="flex w-68 shrink-0 flex-col justify-between text-[0.93rem]">
            <div className="flex items-start gap-2">
              <FamilyMark family={candidate.row.source.family} />
              <div className="min-w-0">
                <Link
                  to={`/loops/${candidate.row.id}`}
                  className="block truncate font-semibold hover:underline"
                  title={candidate.row.fileName}
                >
                  {candidate.row.title}
                </Link>
                <span className="quiet block truncate">{candidate.row.packName}</span>
              </div>
            </div>
            <p className="truncate" role="status" aria-live="polite">
              <strong>{candidate.alone ? 'as recorded' : describeFit(candidate.fitted)}</strong>
              <span className="quiet">
                {' '}
                · {candidate.message ?? (candidate.alone && candidate.phase === 'sounding' ? 'alone' : phaseWords[candidate.phase])}
              </span>
            </p>
            <p className="quiet truncate">
              {tempoText(candidate.row.source.tempoBpm)} · {keyText(candidate.row.source)} · {barsText(candidate.row.bars)} bars
            </p>
          </div>
          <CandidateWave candidate={candidate} />
        </>
      ) : (
        <div className="flex flex-1 items-center gap-6">
          <p className="quiet max-w-xl">
            {playing
              ? 'Click a loop, or press ↓ in the list: it comes in on the next bar, in the project’s tempo and key.'
              : 'Click a loop to hear it alone. Play the project (Space) to hear candidates inside it.'}
          </p>
        </div>
      )}
      <fieldset className="flex w-84 shrink-0 flex-col justify-between text-[0.93rem] max-lg:w-64">
        <legend className="sr-only">How candidates are heard</legend>
        <div className="flex flex-wrap gap-x-4 gap-y-1">
          {(
            [
              ['fitTempo', 'fit tempo'],
              ['fitKey', 'fit key'],
              ['evenLevel', 'even level'],
            ] as const
          ).map(([name, label]) => (
            <label key={name} className="flex cursor-pointer items-center gap-1.5">
              <input
                type="checkbox"
                className="toggle toggle-sm toggle-primary"
                checked={settings[name]}
                onChange={(event) => engine.setSettings({ [name]: event.target.checked })}
              />
              {label}
            </label>
          ))}
        </div>
        <label className="flex items-center gap-2">
          <span className="quiet shrink-0">start on</span>
          <select
            className="select select-xs"
            value={settings.startOn}
            onChange={(event) => engine.setSettings({ startOn: event.target.value as StartOn })}
          >
            <option value="now">now</option>
            <option value="beat">the next beat</option>
            <option value="bar">the next bar</option>
            <option value="range">the start of the range</option>
          </select>
        </label>
        <label className="flex items-center gap-2">
          <Volume2 className="size-4 shrink-0" aria-hidden="true" />
          <span className="sr-only">Candidate’s gain</span>
          <input
            type="range"
            className="range range-xs range-primary"
            min={-24}
            max={12}
            step={0.5}
            value={settings.gainDb}
            onChange={(event) => engine.setSettings({ gainDb: Number(event.target.value) })}
          />
          <span className="w-16 shrink-0 text-right">{signed(settings.gainDb, 1)} dB</span>
        </label>
      </fieldset>
      <div className="flex w-28 shrink-0 flex-col justify-center gap-2">
        <button className="btn btn-primary btn-sm" disabled={!candidate} onClick={() => candidate && place({ row: candidate.row })}>
          <CornerDownLeft className="size-4" /> Place …
        </button>
        <button className="btn btn-sm" disabled={!candidate} onClick={() => engine.stopAudition()}>
          <Square className="size-3.5" fill="currentColor" /> Silence
        </button>
      </div>
    </section>
  );
}

/** The large waveform with its bar lines and playhead; it can be dragged into the ribbon or onto a track. */
function CandidateWave({ candidate }: { candidate: Candidate }) {
  const engine = useEngine();
  const { attributes: _, listeners, setNodeRef } = useDraggable({ id: 'tray-candidate', data: { row: candidate.row } });
  const { overview, bars, meter, source } = candidate.row;
  const draw = useCallback(
    (context: CanvasRenderingContext2D, width: number, height: number) =>
      drawWave(context, 0, 0, width, height, {
        overview: decodeOverview(overview),
        beats: source.beats ?? 0,
        barBeats: beatsPerBar(meter ?? '4/4'),
        ink: readToken('--wave'),
        strongInk: readToken('--wave-strong'),
      }),
    [overview, source.beats, meter],
  );
  return (
    <div
      ref={setNodeRef}
      {...listeners}
      className="relative min-w-0 flex-1 cursor-grab touch-none overflow-hidden rounded-sm border border-base-300 bg-base-100"
      title="Drag into the project"
    >
      <Canvas draw={draw} className="absolute inset-0 size-full" label={`Waveform of ${candidate.row.title}, ${barsText(bars)} bars`} />
      <GripVertical className="quiet absolute right-1 top-1 size-4" aria-hidden="true" />
      <Playhead at={() => engine.candidatePhase()} />
    </div>
  );
}
