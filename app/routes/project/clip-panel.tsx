import { Minus, Plus, X } from 'lucide-react';
import { RoomLink } from '~/ui/room-link';
import { toast } from '~/ui/toast';
import { describeFit } from '~core/arrangement/fit-request';
import { fitClip } from '~core/arrangement/plan';
import { speedRatios, type KeptOverrides } from '~core/arrangement/fit-settings';
import { loopIdOf, mostClipGainDb, type Clip, type Project, type Track } from '~core/arrangement/tree';
import { beatsPerBar } from '~core/units/time';
import { DragSlider } from '~/ui/drag-slider';
import { StretchModeSelect } from '~/ui/stretch-mode-select';
import { signed } from '~/ui/format';
import { useProjectStore, useProject } from '~/ui/project-store';

/** What can be done to the chosen clip. */
export function ClipPanel({ project, track, clip, onClose }: { project: Project; track: Track; clip: Clip; onClose: () => void }) {
  const projectStore = useProjectStore(),
    row = useProject((state) => state.loops.get(loopIdOf(clip))),
    bar = beatsPerBar(project.meter);
  const set = (changes: Partial<Clip>) => {
    const refused = projectStore.edit({ kind: 'set-clip', clipId: clip.id, trackId: track.id, changes });
    if (refused) toast.error(refused);
  };
  /** Changes what is done to the clip's loop; `undefined` leaves it alone again. */
  const treat = (changes: { readonly [name in keyof KeptOverrides]: KeptOverrides[name] | undefined }) =>
    set({ overrides: Object.fromEntries(Object.entries({ ...clip.overrides, ...changes }).filter(([, value]) => value !== undefined)) });
  const fitted = row ? fitClip(clip, row.source, project) : null;
  return (
    <section
      aria-label="Chosen clip"
      className="flex shrink-0 flex-wrap items-center gap-x-5 gap-y-1 border-t border-base-300 bg-base-200 px-3 py-1.5 text-[0.93rem]"
    >
      <span className="max-w-60 truncate font-semibold">
        {row ? (
          <RoomLink className="hover:underline" to={`/loops/${row.id}`}>
            {row.title}
          </RoomLink>
        ) : (
          'Clip'
        )}
      </span>
      <span className="quiet">
        bars {clip.startBeat / bar + 1}–{(clip.startBeat + clip.lengthBeats) / bar}
        {fitted && ` · ${describeFit(fitted)}`}
      </span>
      <span className="flex items-center gap-1">
        <span className="caps">Transpose</span>
        <button
          className="btn btn-xs btn-square"
          aria-label="Down a semitone"
          onClick={() => set({ shiftSemitones: clip.shiftSemitones - 1 })}
        >
          <Minus className="size-3.5" />
        </button>
        <span className="w-7 text-center" aria-live="polite">
          {signed(clip.shiftSemitones)}
        </span>
        <button
          className="btn btn-xs btn-square"
          aria-label="Up a semitone"
          onClick={() => set({ shiftSemitones: clip.shiftSemitones + 1 })}
        >
          <Plus className="size-3.5" />
        </button>
      </span>
      <label className="flex items-center gap-1.5">
        <input
          type="checkbox"
          className="toggle toggle-sm toggle-primary"
          checked={clip.followTempo}
          onChange={(event) => set({ followTempo: event.target.checked })}
        />
        follows tempo
      </label>
      <label className="flex items-center gap-1.5">
        <input
          type="checkbox"
          className="toggle toggle-sm toggle-primary"
          checked={clip.followKey}
          onChange={(event) => set({ followKey: event.target.checked })}
        />
        follows key
      </label>
      {row?.source.media === 'audio' && (
        <label className="flex items-center gap-1.5">
          <span className="caps">Stretched as</span>
          <StretchModeSelect
            className="select-xs w-40"
            source={row.source}
            value={clip.overrides?.stretchMode ?? null}
            onChange={(engine) => treat({ stretchMode: engine ?? undefined })}
          />
        </label>
      )}
      {fitted && (
        <label className="flex items-center gap-1.5">
          <span className="caps">Speed</span>
          <select
            className="select select-xs w-20"
            aria-label="Speed"
            value={clip.overrides?.speedRatio ?? 1}
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
      <button
        className={`btn btn-xs ${clip.overrides?.reverse ? 'btn-neutral' : ''}`}
        aria-pressed={clip.overrides?.reverse ?? false}
        onClick={() => treat({ reverse: clip.overrides?.reverse ? undefined : true })}
      >
        backwards
      </button>
      <label className="flex items-center gap-2">
        <span className="caps">Gain</span>
        <DragSlider
          className="range range-xs w-24"
          min={-36}
          max={mostClipGainDb}
          step={0.5}
          value={clip.gainDb}
          onCommit={(gainDb) => set({ gainDb })}
        >
          {(gainDb) => <span className="w-16 whitespace-nowrap">{signed(gainDb, 1)} dB</span>}
        </DragSlider>
      </label>
      <span className="ml-auto flex gap-1">
        <button className="btn btn-ghost btn-xs btn-square" aria-label="Close" onClick={onClose}>
          <X className="size-3.5" />
        </button>
      </span>
    </section>
  );
}
