import { memo } from 'react';
import { ArrowLeftToLine, ArrowRightToLine, Minus, Plus, Rewind } from 'lucide-react';
import { speedRatios, type ClipOverrides } from '~core/arrangement/fit-settings';
import { stretchModeRow } from '~core/stretch/stretch-modes';
import { useEngine } from '~/audio/hooks';
import type { Candidate } from '~/audio/store';
import { StretchModeSelect } from '~/ui/stretch-mode-select';
import { signed } from '~/ui/format';

const speedWords: Readonly<Record<number, string>> = { 0.25: '¼ ×', 0.5: '½ ×, half time', 1: 'as it is', 2: '2 ×, double time', 4: '4 ×' };

/** What can be tried on the candidate while it sounds; all of it goes along when it is placed. */
export const OverridesRow = memo(function OverridesRow({ candidate }: { candidate: Candidate }) {
  const engine = useEngine(),
    { overrides, offsetBeats, row, fitted } = candidate,
    { source } = row,
    set = (changes: Partial<ClipOverrides> & { offsetBeats?: number }) => engine.audition.treat(changes),
    shift = (by: number) => set({ shiftSemitones: clamp(overrides.shiftSemitones + by, 24) }),
    repeats = Number.isFinite(fitted.cycleFrames),
    bars = source.beats === null ? 0 : Math.floor(source.beats / source.barBeats),
    // The same note by the other way round the octave.
    otherWay = fitted.shiftSemitones > 0 ? -12 : 12;
  return (
    <div
      role="group"
      aria-label="What is tried on the candidate"
      className="flex h-9 shrink-0 items-center gap-x-4 max-xl:gap-x-2.5 overflow-x-auto border-t border-base-300 bg-base-200 px-3 text-[0.9rem] whitespace-nowrap"
    >
      <span className="flex items-center gap-1">
        <span className="caps">Pitch</span>
        <Step label="Down a semitone" onClick={() => shift(-1)} icon={<Minus className="size-3.5" />} />
        <output className="w-11 text-center tabular-nums" aria-label="Shift in semitones">
          {signed(fitted.shiftSemitones, Number.isInteger(fitted.shiftSemitones) ? 0 : 2)}
        </output>
        <Step label="Up a semitone" onClick={() => shift(1)} icon={<Plus className="size-3.5" />} />
        <button className="btn btn-xs" onClick={() => shift(otherWay)} title="The same note, an octave the other way">
          other way
        </button>
        <Step label="−10 ct: down ten cents" onClick={() => shift(-0.1)} icon="−10 ct" wide />
        <Step label="+10 ct: up ten cents" onClick={() => shift(0.1)} icon="+10 ct" wide />
      </span>
      {fitted.request.stretchMode === 'voice' && (
        <span className="flex items-center gap-1">
          <span className="caps">Character</span>
          <Step
            label="Darker"
            onClick={() => set({ formantSemitones: clamp(overrides.formantSemitones - 1, 12) })}
            icon={<Minus className="size-3.5" />}
          />
          <output className="w-7 text-center tabular-nums" aria-label="Character in semitones">
            {signed(overrides.formantSemitones)}
          </output>
          <Step
            label="Brighter"
            onClick={() => set({ formantSemitones: clamp(overrides.formantSemitones + 1, 12) })}
            icon={<Plus className="size-3.5" />}
          />
        </span>
      )}
      <label className="flex items-center gap-1">
        <span className="caps">Speed</span>
        <select
          aria-label="Speed"
          className="select select-xs w-34 max-xl:w-24"
          value={overrides.speedRatio}
          onChange={({ target }) => set({ speedRatio: Number(target.value) })}
        >
          {speedRatios.map((ratio) => (
            <option key={ratio} value={ratio}>
              {speedWords[ratio]}
            </option>
          ))}
        </select>
      </label>
      {repeats && (
        <>
          <span className="flex items-center gap-1">
            <span className="caps">Begins</span>
            <Step
              label="A beat earlier in the loop"
              onClick={() => set({ offsetBeats: offsetBeats - 1 })}
              icon={<ArrowLeftToLine className="size-3.5" />}
            />
            <output className="w-14 text-center tabular-nums" aria-label="Beats into the loop">
              {signed(offsetBeats)} beat
            </output>
            <Step
              label="A beat later in the loop"
              onClick={() => set({ offsetBeats: offsetBeats + 1 })}
              icon={<ArrowRightToLine className="size-3.5" />}
            />
          </span>
          {bars > 1 && (
            <label className="flex items-center gap-1">
              <span className="caps">Bars</span>
              <select
                aria-label="Bars"
                className="select select-xs w-24"
                value={overrides.firstBars ?? ''}
                onChange={({ target }) => set({ firstBars: target.value ? Number(target.value) : null })}
              >
                <option value="">all {bars}</option>
                {Array.from({ length: Math.min(bars - 1, 8) }, (_, k) => (
                  <option key={k} value={k + 1}>
                    first {k === 0 ? 'one' : k + 1}
                  </option>
                ))}
              </select>
            </label>
          )}
        </>
      )}
      <button
        className={`btn btn-xs ${overrides.reverse ? 'btn-neutral' : ''}`}
        aria-pressed={overrides.reverse}
        onClick={() => set({ reverse: !overrides.reverse })}
      >
        <Rewind className="size-3.5" /> backwards
      </button>
      {source.media === 'audio' && (
        <label className="flex items-center gap-1" title={stretchModeRow(fitted.request.stretchMode).purpose}>
          <span className="caps max-xl:hidden">Stretched as</span>
          <StretchModeSelect
            className="select-xs w-46 max-xl:w-34"
            source={source}
            value={overrides.stretchMode}
            onChange={(each) => set({ stretchMode: each })}
          />
        </label>
      )}
      {source.beatFrames && (
        <label className="flex items-center gap-1">
          <span className="caps">Grid</span>
          <select
            aria-label="Drawn onto the grid"
            className="select select-xs w-24"
            value={overrides.gridStrength ?? source.fitDefaults?.gridStrength ?? 0}
            onChange={({ target }) => set({ gridStrength: Number(target.value) })}
          >
            {[0, 0.25, 0.5, 0.75, 1].map((strength) => (
              <option key={strength} value={strength}>
                {strength === 0 ? 'as played' : `${strength * 100} %`}
              </option>
            ))}
          </select>
        </label>
      )}
    </div>
  );
});

const clamp = (value: number, most: number): number => Math.max(-most, Math.min(most, Math.round(value * 100) / 100));

function Step({ label, icon, wide = false, onClick }: { label: string; icon: React.ReactNode; wide?: boolean; onClick: () => void }) {
  return (
    <button className={`btn btn-xs ${wide ? 'px-1.5' : 'btn-square'}`} aria-label={label} title={label} onClick={onClick}>
      {icon}
    </button>
  );
}
