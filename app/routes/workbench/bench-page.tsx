import { useEffect, useMemo, useState } from 'react';
import { Pause, Play, Redo2, Save, Undo2 } from 'lucide-react';
import { useStore } from 'zustand';
import { zeroCrossingNear } from '~core/workbench/part';
import { gridMoves } from '~core/workbench/to-grid';
import type { BenchSetting, Step } from '~core/workbench/steps';
import type { Levels } from '~core/analysis/level/levels';
import { beatToFrame, projectRateHz } from '~core/units/time';
import { benchLoopId, type WholeLoop } from '~contracts/whole-loop';
import type { BenchReply, ShownSound } from '~workers/bench-protocol';
import { keepOwnSound } from '~/audio/own-sounds';
import { useEngine, useEngineState } from '~/audio/hooks';
import { tempoText } from '~/ui/format';
import { Playhead } from '~/ui/playhead';
import { RoomLink } from '~/ui/room-link';
import { Bench, withHandle } from './bench';
import { CleanEditor } from './clean-editor';
import { GridEditor } from './grid-editor';
import { LayersEditor } from './layers-editor';
import { PartEditor } from './part-editor';
import { LineEditor, RetuneEditor } from './pitch-editors';
import { Handle } from './handle';
import { LineNotes } from './line-notes';
import { SaveDialog } from './save-dialog';
import { SlicesEditor } from './slices-editor';
import { StepList, stepWords } from './step-list';
import { fitted, nearest, type HandleSnap, type View } from './view';
import { beatLines, Wave } from './wave';

const settingOf = ({ source }: WholeLoop): BenchSetting => ({
  tempoBpm: source.tempoBpm,
  beats: source.beats,
  barBeats: source.barBeats,
  key: source.key,
  startFrame: source.startFrame,
  onsetFrames: [...source.onsetFrames],
  // With a pause before it, or a tail behind it, it goes round only once it is cut.
  isCycle:
    source.kind === 'loop' &&
    source.startFrame < 64 &&
    source.tempoBpm !== null &&
    source.beats !== null &&
    Math.abs(beatToFrame(source.beats, source.tempoBpm, projectRateHz) - source.soundFrames) < 64,
});

let heard = 0;

/** What came off the bench as something that the engine can hear: the loop as it was, with another sound. */
function heardAs(row: WholeLoop, made: Extract<BenchReply, { ok: true }>['made']): WholeLoop {
  const name = `bench-${++heard}`;
  keepOwnSound(name, made.wav);
  return {
    ...row,
    id: benchLoopId,
    title: `${row.title}, on the bench`,
    lengthSeconds: made.frames / projectRateHz,
    bars: made.beats === null ? null : made.beats / made.barBeats,
    overview: btoa(String.fromCharCode(...made.overview)),
    source: {
      ...row.source,
      loopId: benchLoopId,
      soundSha: name,
      soundFrames: made.frames,
      tempoBpm: made.tempoBpm,
      beats: made.beats,
      key: made.key,
      startFrame: made.startFrame,
      onsetFrames: made.onsetFrames,
      faintFrames: [],
      beatFrames: undefined,
      loudnessLufs: made.loudnessLufs,
    },
  };
}

/** What a handle of a part snaps to. */
function snapTo(shown: ShownSound, snap: HandleSnap): (frame: number) => number {
  if (snap === 'off') return (frame) => frame;
  if (snap === 'zero') return (frame) => zeroCrossingNear(shown.channels, Math.round(frame));
  const lines =
    snap === 'hit'
      ? shown.onsetFrames
      : beatLines(shown)
          .filter(({ bar }) => snap === 'beat' || bar !== null)
          .map(({ frame }) => frame);
  return (frame) => nearest(frame, lines);
}

/** What was heard of the loop as it came. */
interface AsItCame {
  readonly tuningCents: number | null;
  readonly levels: Levels | null;
}

export function BenchPage({ row, ...asItCame }: { row: WholeLoop } & AsItCame) {
  const engine = useEngine(),
    [setting] = useState(() => settingOf(row)),
    [bench] = useState(() => new Bench(`/media/sound/${row.source.soundSha}`, setting, `bench ${row.id}`));
  useEffect(() => {
    bench.open();
    return () => {
      bench.close();
      if (engine.store.getState().candidate?.row.id === benchLoopId) engine.audition.stop();
    };
  }, [engine, bench]);
  return <OnBench bench={bench} row={row} setting={setting} {...asItCame} />;
}

function OnBench({
  bench,
  row,
  setting,
  tuningCents,
  levels,
}: {
  bench: Bench;
  row: WholeLoop;
  setting: BenchSetting;
} & AsItCame) {
  const engine = useEngine(),
    { steps, chosen, shown, made, isBusy, trouble, canUndo, canRedo } = useStore(bench.store),
    [view, setView] = useState<View | null>(null),
    [snap, setSnap] = useState<HandleSnap>('zero'),
    [withPicture, setWithPicture] = useState(true),
    [isSaving, setSaving] = useState(false),
    isHeard = useEngineState(({ candidate }) => candidate?.row.id === benchLoopId),
    step = chosen === null ? null : (steps[chosen] ?? null),
    total = shown?.channels[0].length ?? 0,
    now = useMemo(() => fitted(view ?? { fromFrame: 0, toFrame: total }, total), [view, total]);
  // What is changed while it is heard is heard on its next line.
  useEffect(() => {
    if (made && engine.store.getState().candidate?.row.id === benchLoopId)
      void engine.audition.hear({ row: heardAs(row, made), overrides: engine.store.getState().candidate!.overrides, offsetBeats: 0 });
  }, [engine, made, row]);
  const heardPlace = () => {
    const phase = isHeard && chosen === null ? engine.audition.phase() : null;
    if (phase === null || !made) return null;
    const place = (made.startFrame + phase * (made.frames - made.startFrame) - now.fromFrame) / (now.toFrame - now.fromFrame);
    return place >= 0 && place <= 1 ? place : null;
  };
  const hear = () => {
      if (isHeard) engine.audition.stop();
      else if (made) void engine.audition.start(heardAs(row, made));
    },
    change = (next: Step, goesOn = false) => chosen !== null && bench.setStep(chosen, next, goesOn);
  return (
    <div
      className="flex h-full flex-col gap-2 overflow-auto px-4 py-3"
      data-bench={isBusy ? 'busy' : 'ready'}
      data-bench-ms={made?.tookMs}
      onKeyDown={(event) => {
        if ((event.target as HTMLElement).closest('input, textarea, select, dialog')) return;
        const control = event.ctrlKey || event.metaKey,
          key = event.key.toLowerCase();
        if (control && key === 'z' && !event.shiftKey) bench.undo();
        else if (control && (key === 'y' || (key === 'z' && event.shiftKey))) bench.redo();
        else if (!control && !event.altKey && key === 'h') hear();
        else return;
        event.preventDefault();
        event.stopPropagation();
      }}
    >
      <header className="flex flex-wrap items-center gap-2">
        <button
          className="btn btn-sm btn-primary btn-square"
          aria-label={isHeard ? 'Silence' : 'Hear it'}
          title="Hear it (H)"
          disabled={!made}
          onClick={hear}
        >
          {isHeard ? <Pause className="size-4" fill="currentColor" /> : <Play className="size-4" fill="currentColor" />}
        </button>
        <h1 className="min-w-0 truncate">
          <RoomLink to={`/loops/${row.id}`} className="hover:underline">
            {row.title}
          </RoomLink>
        </h1>
        <span className="quiet" role="status">
          {trouble ? (
            <span className="text-error">{trouble}</span>
          ) : isBusy || !made ? (
            'being made …'
          ) : (
            [
              `${(made.frames / projectRateHz).toFixed(2)} s`,
              made.beats !== null && `${Number((made.beats / made.barBeats).toFixed(2))} bars`,
              made.tempoBpm !== null && `at ${tempoText(made.tempoBpm)}`,
              made.loudnessLufs !== null && `${made.loudnessLufs.toFixed(1).replace('-', '−')} LUFS`,
              made.peakDbfs !== null &&
                `peak ${made.peakDbfs.toFixed(1).replace('-', '−')} dBFS${made.peakDbfs > 0 ? ', over full scale' : ''}`,
            ]
              .filter(Boolean)
              .join(' · ')
          )}
        </span>
        <span className="ml-auto flex items-center gap-1.5">
          <button
            className="btn btn-sm btn-square"
            aria-label="Undo"
            title="Undo (Ctrl Z)"
            disabled={!canUndo}
            onClick={() => bench.undo()}
          >
            <Undo2 className="size-4" />
          </button>
          <button
            className="btn btn-sm btn-square"
            aria-label="Redo"
            title="Redo (Ctrl Shift Z)"
            disabled={!canRedo}
            onClick={() => bench.redo()}
          >
            <Redo2 className="size-4" />
          </button>
          <button className="btn btn-sm" aria-pressed={withPicture} onClick={() => setWithPicture(!withPicture)}>
            Spectrum
          </button>
          <RoomLink to="/workbench" className="btn btn-sm">
            Another sound …
          </RoomLink>
          <button className="btn btn-sm btn-primary" disabled={!made || isBusy} onClick={() => setSaving(true)}>
            <Save className="size-4" aria-hidden="true" /> Save …
          </button>
        </span>
      </header>
      {shown && (
        <Wave shown={shown} view={now} onView={setView} withPicture={withPicture}>
          {step?.kind === 'part' && (
            <>
              {(
                [
                  ['Where it starts', 'fromFrame'],
                  ['Where it ends', 'toFrame'],
                ] as const
              ).map(([label, name]) => (
                <Handle
                  key={name}
                  label={label}
                  frame={step[name]}
                  view={now}
                  snap={snapTo(shown, snap)}
                  onMove={(frame, goesOn) => {
                    const next = withHandle(step, shown.tempoBpm, { [name]: Math.min(total, frame) });
                    if (next.toFrame - next.fromFrame > 500) change(next, goesOn);
                  }}
                />
              ))}
              <Shade view={now} fromFrame={0} toFrame={step.fromFrame} />
              <Shade view={now} fromFrame={step.toFrame} toFrame={total} />
            </>
          )}
          {step?.kind === 'grid' &&
            gridMoves(shown, total, step).map(({ fromFrame, toFrame }) => {
              const isByHand = step.byHand.some((each) => each.fromFrame === fromFrame);
              return (
                <Handle
                  key={fromFrame}
                  label={`Hit at ${(fromFrame / projectRateHz).toFixed(3)} seconds`}
                  frame={toFrame}
                  view={now}
                  className={`w-3 before:absolute before:inset-y-0 before:left-1/2 before:-translate-x-1/2 ${isByHand ? 'before:w-1 before:bg-accent' : 'before:w-px before:bg-primary'}`}
                  onMove={(frame, goesOn) =>
                    change(
                      { ...step, byHand: [...step.byHand.filter((each) => each.fromFrame !== fromFrame), { fromFrame, toFrame: frame }] },
                      goesOn,
                    )
                  }
                >
                  <span
                    className="pointer-events-none absolute bottom-0 h-1 bg-base-content"
                    style={offStyle(fromFrame - toFrame, now)}
                    aria-hidden="true"
                  />
                </Handle>
              );
            })}
          {step?.kind === 'line' && (
            <LineNotes
              shown={shown}
              step={step}
              view={now}
              onMove={(index, semitones) => {
                const { [index]: _, ...others } = step.moves;
                change({ ...step, moves: semitones === null ? others : { ...others, [index]: Math.max(-24, Math.min(24, semitones)) } });
              }}
            />
          )}
          <Playhead at={heardPlace} />
        </Wave>
      )}
      <div className="flex min-h-0 flex-wrap gap-4 lg:flex-nowrap">
        <StepList
          steps={steps}
          chosen={chosen}
          onChoose={(index) => bench.choose(index)}
          onAdd={(kind) => bench.add(kind)}
          onMove={(index, by) => bench.move(index, by)}
          onRemove={(index) => bench.remove(index)}
        />
        <section aria-label={step ? stepWords[step.kind].name : 'What is heard'} className="min-w-0 flex-1">
          {step && shown ? (
            <>
              <h2>{stepWords[step.kind].name}</h2>
              <div className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-2">
                {step.kind === 'part' && <PartEditor step={step} shown={shown} onChange={change} snap={snap} onSnap={setSnap} />}
                {step.kind === 'grid' && <GridEditor step={step} shown={shown} onChange={change} />}
                {step.kind === 'retune' && <RetuneEditor step={step} shown={shown} onChange={change} tuningCents={tuningCents} />}
                {step.kind === 'line' && <LineEditor step={step} shown={shown} onChange={change} />}
                {step.kind === 'slices' && <SlicesEditor step={step} shown={shown} onChange={change} />}
                {step.kind === 'clean' && <CleanEditor step={step} shown={shown} onChange={change} levels={levels} />}
                {step.kind === 'layers' && <LayersEditor step={step} shown={shown} onChange={change} />}
              </div>
            </>
          ) : (
            <p className="quiet max-w-xl">
              Add a step on the left; it is heard at once, over the project when that plays, or alone. The wheel zooms down to the samples,
              with Shift it moves along.
            </p>
          )}
        </section>
      </div>
      {isSaving && made && <SaveDialog row={row} steps={steps} setting={setting} made={made} onClose={() => setSaving(false)} />}
    </div>
  );
}

/** From where a hit is drawn to where it was played. */
function offStyle(frames: number, { fromFrame, toFrame }: View): React.CSSProperties {
  const share = `${(Math.abs(frames) / (toFrame - fromFrame)) * 100}cqw`;
  return frames < 0 ? { right: '50%', width: share } : { left: '50%', width: share };
}

/** What is left away. */
function Shade({ view, fromFrame, toFrame }: { view: View; fromFrame: number; toFrame: number }) {
  const share = (frame: number) => Math.max(0, Math.min(100, ((frame - view.fromFrame) / (view.toFrame - view.fromFrame)) * 100));
  return (
    <div
      className="pointer-events-none absolute inset-y-0 bg-base-300/70"
      style={{ left: `${share(fromFrame)}%`, width: `${share(toFrame) - share(fromFrame)}%` }}
      aria-hidden="true"
    />
  );
}
