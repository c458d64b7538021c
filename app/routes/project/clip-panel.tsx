import { Minus, Plus, X } from 'lucide-react';
import { RoomLink } from '~/ui/room-link';
import { describeFit } from '~core/arrangement/fit-request';
import { fitClip } from '~core/arrangement/plan';
import { speedRatios, type KeptOverrides } from '~core/arrangement/fit-settings';
import { ofLoop, patternOf, mostClipGainDb, type Clip, type Project } from '~core/arrangement/tree';
import { beatsPerBar } from '~core/units/time';
import { useEngineState } from '~/audio/hooks';
import { DragSlider } from '~/ui/drag-slider';
import { StretchModeSelect } from '~/ui/stretch-mode-select';
import { signed } from '~/ui/format';
import { useProject } from '~/ui/project-store';
import { placeInWords } from './clip-box';
import { ChordPlanRow } from './harmony/chord-plan-row';
import { InstrumentSelect } from './notes/instrument-select';
import type { ClipActs } from './use-acts';

/** How the chosen clips sound: what the first of them has is shown, what is changed is changed for all. */
export function ClipPanel({
  project,
  clips,
  acts,
  onClose,
}: {
  project: Project;
  clips: readonly Clip[];
  acts: ClipActs;
  onClose: () => void;
}) {
  const [clip] = clips,
    row = useProject((state) => ofLoop(state.loops, clip)),
    pattern = patternOf(project, clip),
    bar = beatsPerBar(project.meter),
    isLost = useEngineState(({ silentSounds }) => (row ? silentSounds.has(row.source.soundSha) : pattern === null)),
    { overrides } = clip,
    set = (changes: Partial<Clip>) => acts.change(() => changes);
  /** Changes what is done to the clips' loops; `undefined` leaves them alone again. */
  const treat = (changes: { readonly [name in keyof KeptOverrides]: KeptOverrides[name] | undefined }) =>
    acts.change((each) => ({
      overrides: Object.fromEntries(Object.entries({ ...each.overrides, ...changes }).filter(([, value]) => value !== undefined)),
    }));
  const fitted = row ? fitClip(clip, row.source, project) : null,
    semitones = Math.round(clip.shiftSemitones),
    cents = Math.round((clip.shiftSemitones - semitones) * 100),
    mostFade = Math.min(clip.lengthBeats, 8 * bar);
  return (
    <section
      aria-label={clips.length === 1 ? 'Chosen clip' : 'How the chosen clips sound'}
      className="flex shrink-0 flex-wrap items-center gap-x-4 gap-y-1 border-t border-base-300 bg-base-200 px-3 py-1.5 text-[0.93rem]"
    >
      {clips.length === 1 ? (
        <>
          <span className="max-w-56 truncate font-semibold">
            {row ? (
              <RoomLink className="hover:underline" to={`/loops/${row.id}`}>
                {row.title}
              </RoomLink>
            ) : (
              (pattern?.name ?? 'Its loop is gone')
            )}
          </span>
          <span className="quiet">
            {isLost
              ? `${placeInWords(clip, bar)} · silent: its sound cannot be had. Put another in its place: Instead …`
              : `${placeInWords(clip, bar)}${fitted ? ` · ${describeFit(fitted)}` : ''}`}
          </span>
        </>
      ) : (
        <span className="font-semibold">all {clips.length}</span>
      )}
      <span className="flex items-center gap-1">
        <span className="caps">Transpose</span>
        <button className="btn btn-xs btn-square" aria-label="Down a semitone" onClick={() => acts.transpose(-1)}>
          <Minus className="size-3.5" />
        </button>
        <span className="w-7 text-center" aria-live="polite">
          {signed(semitones)}
        </span>
        <button className="btn btn-xs btn-square" aria-label="Up a semitone" onClick={() => acts.transpose(1)}>
          <Plus className="size-3.5" />
        </button>
      </span>
      {!pattern && (
        <label className="flex items-center gap-1.5">
          <span className="caps">Cents</span>
          <DragSlider
            className="range range-xs w-16"
            min={-50}
            max={50}
            step={1}
            value={cents}
            aria-label="Cents"
            onCommit={(value) => acts.change((each) => ({ shiftSemitones: Math.round(each.shiftSemitones) + value / 100 }))}
          >
            {(value) => <span className="w-7 text-right">{signed(value)}</span>}
          </DragSlider>
        </label>
      )}
      {!pattern && (
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            className="toggle toggle-sm toggle-primary"
            checked={clip.followTempo}
            onChange={(event) => set({ followTempo: event.target.checked })}
          />
          follows tempo
        </label>
      )}
      <label className="flex items-center gap-1.5">
        <input
          type="checkbox"
          className="toggle toggle-sm toggle-primary"
          checked={clip.followKey}
          onChange={(event) => set({ followKey: event.target.checked })}
        />
        follows key
      </label>
      <ChordPlanRow project={project} clip={clip} source={row?.source ?? null} onChange={set} />
      {(pattern ? !pattern.isDrums : row?.source.media === 'midi' && row.source.family !== 'drums') && (
        <label className="flex items-center gap-1.5">
          <span className="caps">Played by</span>
          <InstrumentSelect
            value={overrides.instrument ?? pattern?.instrument ?? row?.source.instrument ?? null}
            onChange={(instrument) => treat({ instrument })}
          />
        </label>
      )}
      {row?.source.media === 'audio' && (
        <label className="flex items-center gap-1.5">
          <span className="caps">Stretched as</span>
          <StretchModeSelect
            className="select-xs w-36"
            source={row.source}
            value={overrides.stretchMode ?? null}
            onChange={(engine) => treat({ stretchMode: engine ?? undefined })}
          />
        </label>
      )}
      {!pattern && (
        <label className="flex items-center gap-1.5">
          <span className="caps">Speed</span>
          <select
            className="select select-xs w-20"
            aria-label="Speed"
            value={overrides.speedRatio ?? 1}
            onChange={({ target }) => treat({ speedRatio: Number(target.value) === 1 ? undefined : Number(target.value) })}
          >
            {speedRatios.map((ratio) => (
              <option key={ratio} value={ratio}>
                {ratio < 1 ? `1/${1 / ratio}` : ratio} ×
              </option>
            ))}
          </select>
        </label>
      )}
      {!pattern && (
        <button
          className={`btn btn-xs ${overrides.reverse ? 'btn-neutral' : ''}`}
          aria-pressed={overrides.reverse ?? false}
          onClick={() => treat({ reverse: overrides.reverse ? undefined : true })}
        >
          backwards
        </button>
      )}
      <label className="flex items-center gap-2">
        <span className="caps">Gain</span>
        <DragSlider
          className="range range-xs w-20"
          min={-36}
          max={mostClipGainDb}
          step={0.5}
          value={clip.gainDb}
          aria-label="Gain, dB"
          onCommit={(gainDb) => set({ gainDb })}
        >
          {(gainDb) => <span className="w-16 whitespace-nowrap">{signed(gainDb, 1)} dB</span>}
        </DragSlider>
      </label>
      {(['fadeInBeats', 'fadeOutBeats'] as const).map((name) => (
        <label key={name} className="flex items-center gap-2">
          <span className="caps">{name === 'fadeInBeats' ? 'Fade in' : 'Fade out'}</span>
          <DragSlider
            className="range range-xs w-16"
            min={0}
            max={mostFade}
            step={1 / 4}
            value={Math.min(mostFade, clip[name])}
            aria-label={name === 'fadeInBeats' ? 'Fade in, beats' : 'Fade out, beats'}
            onCommit={(beats) => acts.fade({ [name]: beats })}
          >
            {(beats) => <span className="w-14 whitespace-nowrap">{Number(beats.toFixed(2))} beats</span>}
          </DragSlider>
        </label>
      ))}
      <span className="ml-auto flex gap-1">
        <button className="btn btn-xs" onClick={acts.asTheyCame} title="At its own tempo and pitch, with nothing done to it">
          As it came
        </button>
        <button className="btn btn-ghost btn-xs btn-square" aria-label="Close" onClick={onClose}>
          <X className="size-3.5" />
        </button>
      </span>
    </section>
  );
}
