import { useEffect, useId, useRef, useState } from 'react';
import { toast } from '~/ui/toast';
import { describeFit, lands } from '~core/arrangement/fit-request';
import { settingAt } from '~core/arrangement/harmony/harmony';
import { defaultLengthBars, fitHeard, placeLoop, placingConflict } from '~core/arrangement/place';
import { keyName } from '~core/theory/key';
import { beatsPerBar } from '~core/units/time';
import { useEngine } from '~/audio/hooks';
import { signed, tempoText } from '~/ui/format';
import type { PlaceRequest } from '~/ui/place';
import { useProjectStore, useProject } from '~/ui/project-store';
import { useEnterProject } from '~/ui/room-link';
import { projectFromLoop } from '~/ui/api';
import { newId } from '~/ui/new-id';

/** Asks what is open about a placing: track, bar, length, and who gives way. Enter does it. */
export function PlaceDialog({ request, onClose }: { request: PlaceRequest; onClose: () => void }) {
  const projectStore = useProjectStore(),
    engine = useEngine(),
    project = useProject((state) => state.project),
    ref = useRef<HTMLDialogElement>(null),
    titleId = useId(),
    enter = useEnterProject();
  const { row } = request,
    bar = beatsPerBar(project?.meter ?? '4/4');
  // Without a request, at the bar under the playhead.
  const [startBar, setStartBar] = useState(() => Math.floor((request.startBeat ?? engine.positionBeat()) / bar + 1e-6) + 1);
  const [trackId, setTrackId] = useState(request.trackId ?? 'new'),
    [givesWay, setGivesWay] = useState<'loop' | 'project'>('loop'),
    [problem, setProblem] = useState<string | null>(null);
  // As it was heard when the dialog opened; what is changed in the tray meanwhile is another thing to place.
  const [heard] = useState(() => engine.audition.heard(row, request.overrides)),
    [keepsLevel, setKeepsLevel] = useState(true);
  const [lengthBars, setLengthBars] = useState(() => (project ? defaultLengthBars(project, row.source, (startBar - 1) * bar, heard) : 8));
  // Enter straight away places: the dialog opens on its button.
  useEffect(() => {
    ref.current?.showModal();
    ref.current?.querySelector<HTMLButtonElement>('[data-do]')?.focus();
  }, []);
  // Tempo and key where it would lie.
  const here = project && settingAt(project, (startBar - 1) * bar),
    conflict = here ? placingConflict(here, row.source, heard) : { tempo: false, key: false };
  const repeats = row.source.kind === 'loop' || row.source.kind === 'full-mix';
  const submit = () => {
    if (!project) {
      void projectFromLoop(row.id).then((id) => (id === null ? toast('The project could not be made. Please try again.') : enter(id)));
      ref.current?.close();
      return;
    }
    const edit = placeLoop(project, {
      loop: row.source,
      title: row.title,
      trackId: trackId === 'new' ? null : trackId,
      startBeat: (startBar - 1) * bar,
      lengthBars,
      givesWay,
      heard: { ...heard, gainDb: keepsLevel ? heard.gainDb : 0 },
      offsetBeats: request.offsetBeats,
      newTrackId: newId(),
      newClipId: newId(),
    });
    const refused = projectStore.edit(edit, [row]);
    if (refused) {
      setProblem(refused);
      return;
    }
    engine.audition.stop();
    if (request.dropShortlist) engine.audition.shortlist.clear();
    toast(`Placed “${row.title}” at bar ${startBar}.`, { action: { label: 'Undo', onClick: projectStore.undoOfLast() } });
    ref.current?.close(); // gives the focus back to where it was; unmounting would lose it
  };
  return (
    <dialog ref={ref} className="modal" onClose={onClose} aria-labelledby={titleId}>
      <form
        className="modal-box max-w-md"
        onSubmit={(event) => {
          event.preventDefault();
          submit();
        }}
      >
        <h2 id={titleId} className="truncate">
          Place “{row.title}”
        </h2>
        <p className="quiet truncate">{[row.source.media === 'midi' ? 'MIDI' : 'audio', row.packName, row.fileName].join(' · ')}</p>
        {!project ? (
          <p className="mt-2">
            There is no project in the room. Start one from this loop: it takes the loop’s tempo and key
            {row.source.tempoBpm ? ` (${tempoText(row.source.tempoBpm)}${row.source.key ? `, ${keyName(row.source.key)}` : ''})` : ''}.
          </p>
        ) : (
          <div className="mt-3 flex flex-col gap-3">
            <div className="flex gap-3">
              <label className="flex flex-1 flex-col gap-1">
                <span className="caps">Onto</span>
                <select className="select w-full" value={trackId} onChange={(event) => setTrackId(event.target.value)}>
                  <option value="new">a new track</option>
                  {project.tracks.map((track) => (
                    <option key={track.id} value={track.id}>
                      {track.name}
                    </option>
                  ))}
                </select>
              </label>
              <label className="flex w-24 flex-col gap-1">
                <span className="caps">{lands(row.source) ? 'Lands at bar' : 'At bar'}</span>
                <input
                  type="number"
                  className="input w-full"
                  min={1}
                  max={9999}
                  required
                  value={startBar}
                  onChange={(event) => setStartBar(event.target.valueAsNumber)}
                />
              </label>
              {repeats && (
                <label className="flex w-20 flex-col gap-1">
                  <span className="caps">For bars</span>
                  <input
                    type="number"
                    className="input w-full"
                    min={1}
                    max={999}
                    required
                    value={lengthBars}
                    onChange={(event) => setLengthBars(event.target.valueAsNumber)}
                  />
                </label>
              )}
            </div>
            {(conflict.tempo || conflict.key) && (
              <fieldset className="panel p-3">
                <legend className="caps px-1">
                  {conflict.tempo && conflict.key ? 'Tempo and key differ' : conflict.tempo ? 'The tempos differ' : 'The keys differ'}
                </legend>
                <label className="flex cursor-pointer items-start gap-2">
                  <input
                    type="radio"
                    name="gives-way"
                    className="radio radio-primary size-[24px]"
                    checked={givesWay === 'loop'}
                    onChange={() => setGivesWay('loop')}
                  />
                  <span>
                    The loop gives way: <strong>{describeFit(fitHeard(row.source, here ?? project, heard))}</strong>
                  </span>
                </label>
                <label className="mt-2 flex cursor-pointer items-start gap-2">
                  <input
                    type="radio"
                    name="gives-way"
                    className="radio radio-primary size-[24px]"
                    checked={givesWay === 'project'}
                    onChange={() => setGivesWay('project')}
                  />
                  <span>
                    The project gives way:{' '}
                    {conflict.tempo && row.source.tempoBpm !== null && (
                      <>
                        <strong>
                          {tempoText(project.tempoBpm)} → {tempoText(row.source.tempoBpm)}
                        </strong>
                        {conflict.key && row.source.key && ', '}
                      </>
                    )}
                    {conflict.key && row.source.key && (
                      <strong>
                        {here?.key ? keyName(here.key) : 'no key'} → {keyName(row.source.key)}
                      </strong>
                    )}
                    ; everything in it follows.
                  </span>
                </label>
              </fieldset>
            )}
            {!(conflict.tempo || conflict.key) && (
              <p className="quiet">{describeFit(fitHeard(row.source, here ?? project, heard))}, as you heard it.</p>
            )}
            {(!heard.followTempo || !heard.followKey) && (
              <p className="quiet">
                As in the tray, it does not follow the project’s {heard.followTempo ? 'key' : heard.followKey ? 'tempo' : 'tempo and key'}.
              </p>
            )}
            {Math.abs(heard.gainDb) >= 0.05 && (
              <label className="flex min-h-[24px] cursor-pointer items-center gap-2">
                <input
                  type="checkbox"
                  className="checkbox checkbox-primary size-[24px]"
                  checked={keepsLevel}
                  onChange={(event) => setKeepsLevel(event.target.checked)}
                />
                <span>
                  At the level you heard it at: <strong>{signed(heard.gainDb, 1)} dB</strong>
                </span>
              </label>
            )}
          </div>
        )}
        {problem && (
          <p className="text-error mt-2" role="alert">
            {problem}
          </p>
        )}
        <div className="mt-4 flex justify-end gap-2">
          <button type="button" className="btn btn-sm" onClick={() => ref.current?.close()}>
            Cancel
          </button>
          <button data-do className="btn btn-primary btn-sm">
            {project ? 'Place' : 'Start a project'}
          </button>
        </div>
      </form>
      <form method="dialog" className="modal-backdrop">
        <button aria-label="Close">close</button>
      </form>
    </dialog>
  );
}
