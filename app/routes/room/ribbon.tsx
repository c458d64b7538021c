import { useRef } from 'react';
import type { Project } from '~core/arrangement/tree';
import { keyName } from '~core/theory/key';
import { ratioToDb } from '~core/units/level';
import { beatsPerBar, beatToPosition } from '~core/units/time';
import { useEngine, useEngineState, useFrame } from '~/audio/hooks';
import { useLiveCanvas } from '~/ui/canvas';
import { signed, tempoText } from '~/ui/format';
import { useProjectStore, useProject } from '~/ui/project-store';
import { readToken } from '~/ui/theme';
import { Play, Redo2, SkipBack, Square, Undo2 } from 'lucide-react';
import { RoomLink } from '~/ui/room-link';
import { FreeStrip } from './free-strip';
import { useRubWatch } from '~/ui/harmony/rubs';
import { Strip } from './ribbon-strip';

/** The project on every page: transport, what it is, and its bars as a thin strip. */
export function Ribbon() {
  useRubWatch();
  const engine = useEngine(),
    projectStore = useProjectStore();
  const project = useProject((state) => state.project),
    id = useProject((state) => state.id),
    save = useProject((state) => state.save),
    message = useProject((state) => state.message);
  const canUndo = useProject((state) => state.undo.length > 0),
    canRedo = useProject((state) => state.redo.length > 0);
  const playing = useEngineState((state) => state.playing),
    fittingCount = useEngineState((state) => state.fittingCount),
    trouble = useEngineState((state) => state.trouble);
  return (
    <section aria-label="Project" className="flex h-16 shrink-0 items-stretch gap-3 border-b border-base-300 bg-base-200 px-3 py-1.5">
      <div className="flex items-center gap-1">
        <button className="btn btn-sm btn-square" aria-label="Back to bar 1" title="Back to bar 1 (Home)" onClick={() => engine.seek(0)}>
          <SkipBack className="size-4" />
        </button>
        <button
          className={`btn btn-square ${playing ? 'btn-neutral' : 'btn-primary'}`}
          aria-label={playing ? 'Stop the project' : 'Play the project'}
          title="Play and stop (Space)"
          onClick={() => engine.toggle()}
        >
          {playing ? <Square className="size-4" fill="currentColor" /> : <Play className="size-5" fill="currentColor" />}
        </button>
        <ClickSwitches />
      </div>
      <div className="flex w-48 shrink-0 flex-col justify-center leading-4 max-sm:w-28">
        {project ? (
          <RoomLink to={`/projects/${id}`} className="shrink-0 truncate leading-5 font-semibold hover:underline">
            {project.name}
          </RoomLink>
        ) : (
          <span className="font-semibold">Hear alone</span>
        )}
        <span className="quiet truncate text-[0.86rem]">
          {project
            ? `${tempoText(project.tempoBpm)} · ${project.key ? keyName(project.key) : 'no key'} · ${project.meter}`
            : 'no project in the room'}
        </span>
        <Position project={project} />
      </div>
      {project ? <Strip project={project} /> : <FreeStrip />}
      <Meter />
      <div className="flex w-24 shrink-0 flex-col items-end justify-center gap-1 max-md:hidden">
        <div className="flex">
          <button
            className="btn btn-ghost btn-xs btn-square"
            aria-label="Undo"
            title="Undo (Ctrl Z)"
            disabled={!canUndo}
            onClick={() => projectStore.undo()}
          >
            <Undo2 className="size-4" />
          </button>
          <button
            className="btn btn-ghost btn-xs btn-square"
            aria-label="Redo"
            title="Redo (Ctrl Shift Z)"
            disabled={!canRedo}
            onClick={() => projectStore.redo()}
          >
            <Redo2 className="size-4" />
          </button>
        </div>
        <span className="caps" role="status">
          {!project
            ? ''
            : trouble
              ? 'sound trouble'
              : fittingCount > 0
                ? `fitting ${fittingCount} …`
                : save === 'saving'
                  ? 'saving …'
                  : save === 'saved'
                    ? 'saved'
                    : 'not saved'}
        </span>
      </div>
      {message && (
        <div role="alert" className="alert alert-warning fixed left-1/2 top-28 z-40 w-auto max-w-2xl -translate-x-1/2">
          <span>{message}</span>
        </div>
      )}
    </section>
  );
}

function Position({ project }: { project: Project | null }) {
  const engine = useEngine(),
    ref = useRef<HTMLSpanElement>(null);
  useFrame(() => {
    const { bar, beat } = beatToPosition(engine.positionBeat(), beatsPerBar(project?.meter ?? '4/4'));
    const text = `bar ${bar}.${beat}`;
    if (ref.current && ref.current.textContent !== text) ref.current.textContent = text;
  });
  return (
    <span ref={ref} className="caps">
      bar 1.1
    </span>
  );
}

/** The click on the beats, and how many bars of it come before the music. */
function ClickSwitches() {
  const engine = useEngine(),
    { metronome, countInBars } = useEngineState((state) => state.transportSettings),
    next = ((countInBars + 1) % 3) as 0 | 1 | 2;
  return (
    <div className="flex flex-col gap-1 max-sm:hidden">
      <button
        className={`btn btn-xs ${metronome ? 'btn-neutral' : ''}`}
        aria-pressed={metronome}
        title="Click on the beats (C)"
        onClick={() => engine.setTransport({ metronome: !metronome })}
      >
        click
      </button>
      <button
        className={`btn btn-xs ${countInBars ? 'btn-neutral' : ''}`}
        aria-label={`Count-in: ${countInBars} bars. Press for ${next}.`}
        title="Bars counted in before the music"
        onClick={() => engine.setTransport({ countInBars: next })}
      >
        in {countInBars}
      </button>
    </div>
  );
}

const floorDb = -48,
  meterGap = 2;

/** Peak of the sum, left and right, with the highest true peak since the last click, and by how much the ceiling held it down for the ears. */
function Meter() {
  const engine = useEngine(),
    text = useRef<HTMLSpanElement>(null),
    heldText = useRef<HTMLSpanElement>(null),
    state = useRef({ levels: [floorDb, floorDb], drawn: '', top: -Infinity, heldDb: 0 });
  const bars = useLiveCanvas(({ context, width, height, fresh }) => {
    const { peaks, truePeaks, heldGainRatio } = engine.takePeaks(),
      { levels } = state.current;
    if (heldGainRatio < 1) state.current.heldDb = Math.min(state.current.heldDb, ratioToDb(heldGainRatio));
    for (const peak of truePeaks) if (peak > 0) state.current.top = Math.max(state.current.top, ratioToDb(peak));
    peaks.forEach((peak, side) => {
      const db = peak > 0 ? ratioToDb(peak) : -Infinity;
      levels[side] = Math.max(floorDb, Math.max(db, levels[side] - 0.8));
    });
    // A silent meter draws nothing.
    const drawn = levels.join();
    if (fresh || drawn !== state.current.drawn) {
      state.current.drawn = drawn;
      levels.forEach((db, side) => {
        const wide = (width - meterGap) / 2,
          x = side * (wide + meterGap),
          tall = (height * (db - floorDb)) / -floorDb;
        context.fillStyle = readToken('--color-base-300');
        context.fillRect(x, 0, wide, height);
        context.fillStyle = readToken(db > -0.1 ? '--color-error' : db > -6 ? '--color-accent' : '--color-secondary');
        context.fillRect(x, height - tall, wide, tall);
      });
    }
    if (text.current) {
      const shown = state.current.top > floorDb ? signed(state.current.top, 1) : '–';
      if (text.current.textContent !== shown) text.current.textContent = shown;
    }
    if (heldText.current) {
      const { heldDb } = state.current,
        shown = heldDb < -0.05 ? `held ${heldDb.toFixed(1).replace('-', '−')}` : '';
      if (heldText.current.textContent !== shown) heldText.current.textContent = shown;
    }
  });
  return (
    <button
      className="flex w-18 shrink-0 items-center gap-1.5 rounded-sm px-1 hover:bg-base-300"
      title="Peaks of the sum; the number is the highest true peak, dBTP. Above full scale your ears are spared: what you hear is held down by so many dB. A mixdown is not. Click to forget both."
      onClick={() => {
        state.current.top = -Infinity;
        state.current.heldDb = 0;
      }}
    >
      <span className="sr-only">Highest true peak; press to forget it:</span>
      <canvas ref={bars} className="h-[calc(100%-4px)] w-3.5 shrink-0" aria-hidden="true" />
      <span className="flex min-w-0 flex-col text-left leading-tight">
        <span ref={text} className="text-xs tabular-nums">
          –
        </span>
        <span ref={heldText} className="text-[11px] whitespace-nowrap text-error tabular-nums" />
      </span>
    </button>
  );
}
