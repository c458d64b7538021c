import { memo } from 'react';
import { Volume2 } from 'lucide-react';
import { useEngine, useEngineState } from '~/audio/hooks';
import type { AuditionSettings, HeardWith } from '~/audio/store';
import type { StartOn } from '~/audio/transport';
import { signed } from '~/ui/format';
import { useProject } from '~/ui/project-store';

const switches: readonly (readonly [keyof AuditionSettings & ('fitTempo' | 'fitKey' | 'evenLevel' | 'lowCut' | 'mono'), string, string])[] =
  [
    ['fitTempo', 'fit tempo', 'In the project’s tempo'],
    ['fitKey', 'fit key', 'In the project’s key'],
    ['evenLevel', 'even level', 'Every candidate equally loud'],
    ['lowCut', 'low cut', 'Without what lies below 180 Hz, to judge it in a full mix'],
    ['mono', 'mono', 'Both sides as one'],
  ];

/** How candidates are heard, whichever they are. */
export const Switches = memo(function Switches() {
  const engine = useEngine(),
    settings = useEngineState((state) => state.settings),
    tracks = useProject((state) => state.project?.tracks);
  const heard = typeof settings.heardWith === 'object' ? settings.heardWith.withoutTrackId : settings.heardWith;
  return (
    <fieldset className="flex w-84 shrink-0 flex-col justify-between text-[0.93rem] max-lg:w-64">
      <legend className="sr-only">How candidates are heard</legend>
      <div className="flex flex-wrap gap-x-3">
        {switches.map(([name, label, title]) => (
          <label key={name} className="flex min-h-[24px] cursor-pointer items-center gap-1.5" title={title}>
            <input
              type="checkbox"
              className="toggle toggle-sm toggle-primary"
              checked={settings[name]}
              onChange={(event) => engine.audition.setSettings({ [name]: event.target.checked })}
            />
            {label}
          </label>
        ))}
      </div>
      <div className="flex gap-2">
        <label className="flex min-w-0 flex-1 items-center gap-1.5">
          <span className="quiet shrink-0">from</span>
          <select
            className="select select-xs min-w-0"
            aria-label="Start on"
            value={settings.startOn}
            onChange={(event) => engine.audition.setSettings({ startOn: event.target.value as StartOn })}
          >
            <option value="now">now</option>
            <option value="beat">the next beat</option>
            <option value="bar">the next bar</option>
            <option value="range">the start of the range</option>
          </select>
        </label>
        {tracks && (
          <label className="flex min-w-0 flex-1 items-center gap-1.5">
            <span className="sr-only">Heard with</span>
            <select
              className="select select-xs min-w-0"
              value={heard}
              onChange={({ target: { value } }) =>
                engine.audition.setSettings({
                  heardWith: value === 'project' || value === 'alone' ? value : ({ withoutTrackId: value } satisfies HeardWith),
                })
              }
            >
              <option value="project">with the project</option>
              <option value="alone">without the project</option>
              {tracks.map((track) => (
                <option key={track.id} value={track.id}>
                  instead of {track.name}
                </option>
              ))}
            </select>
          </label>
        )}
      </div>
      <label className="flex min-h-[24px] items-center gap-2">
        <Volume2 className="size-4 shrink-0" aria-hidden="true" />
        <span className="sr-only">Candidate’s gain</span>
        <input
          type="range"
          className="range range-xs range-primary"
          min={-24}
          max={12}
          step={0.5}
          value={settings.gainDb}
          onChange={(event) => engine.audition.setSettings({ gainDb: Number(event.target.value) })}
        />
        <span className="w-16 shrink-0 text-right">{signed(settings.gainDb, 1)} dB</span>
      </label>
    </fieldset>
  );
});
