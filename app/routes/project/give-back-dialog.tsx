import { useEffect, useRef, useState } from 'react';
import { Trash2 } from 'lucide-react';
import { attributeRow } from '~core/analysis/attributes/registry';
import { loopIdsIn, ofLoop, type Project } from '~core/arrangement/tree';
import type { Tail } from '~core/making/part';
import { keyName } from '~core/theory/key';
import { beatsPerBar } from '~core/units/time';
import type { PackFor, Sheet } from '~contracts/making';
import { tempoText } from '~/ui/format';
import { useProject } from '~/ui/project-store';
import { makeLoops, namesTaken, noPack, unsaid } from '~/ui/sheet/making-api';
import { PackChoice, SheetFields } from '~/ui/sheet/sheet-fields';
import { toast } from '~/ui/toast';
import type { GiveBackAsked } from './give-back';
import { HearIt } from './hear-it';
import { oneInstrument, oneOfEach, onlyPart, together, tracksWithin, without, type LoopToMake } from './loops-to-make';

const tailWords: Readonly<Record<Tail, string>> = {
  wrap: 'rings on into its start',
  keep: 'is kept behind its end',
  cut: 'is cut off',
};

/** A part of the project as loops of the library: which, under what names, into which pack. */
export function GiveBackDialog({
  projectId,
  project,
  asked,
  onClose,
}: {
  projectId: number;
  project: Project;
  asked: GiveBackAsked;
  onClose: () => void;
}) {
  const dialog = useRef<HTMLDialogElement>(null),
    nextKey = useRef(1),
    library = useProject((state) => state.loops),
    bar = beatsPerBar(project.meter),
    tracks = tracksWithin(project, asked),
    hasNotes = tracks.some(({ clips }) =>
      clips.some((clip) => clip.content.kind === 'notes' || ofLoop(library, clip)?.source.media === 'midi'),
    ),
    [loops, setLoops] = useState<readonly LoopToMake[]>(() => [together(0, asked.name, tracks)]),
    [as, setAs] = useState<'sound' | 'notes'>('sound'),
    [tail, setTail] = useState<Tail>('wrap'),
    [pack, setPack] = useState<PackFor>(noPack),
    [said, setSaid] = useState<Omit<Sheet, 'name'>>({
      ...unsaid,
      setName: asked.name,
      instrument: oneInstrument(tracks, library, project.patterns),
    }),
    [problem, setProblem] = useState<string | null>(null),
    [isSending, setSending] = useState(false);
  useEffect(() => dialog.current?.showModal(), []);
  const keys = (count: number): number => {
      const first = nextKey.current;
      nextKey.current += count;
      return first;
    },
    change = (key: number, changes: Partial<LoopToMake>) =>
      setLoops((before) => before.map((each) => (each.key === key ? { ...each, ...changes } : each))),
    add = (more: readonly LoopToMake[]) => setLoops((before) => [...before, ...more]);
  const send = async () => {
    setSending(true);
    const names = loops.map(({ name }) => name.trim()),
      taken = pack.packId === null ? [] : await namesTaken(pack.packId, names),
      refused =
        taken.length > 0
          ? `There ${taken.length === 1 ? 'is' : 'are'} already in that pack: ${taken.map((name) => `“${name}”`).join(', ')}. Call yours otherwise.`
          : await makeLoops({
              pack,
              makings: loops.map(({ name, setRole, trackIds }) => ({
                sheet: {
                  ...said,
                  name: name.trim(),
                  setRole,
                  setName: loops.length > 1 ? said.setName : '',
                  instrument:
                    loops.length > 1
                      ? oneInstrument(
                          tracks.filter(({ id }) => trackIds.includes(id)),
                          library,
                          project.patterns,
                        )
                      : said.instrument,
                },
                how: {
                  kind: 'part',
                  projectId,
                  as,
                  asked: { trackIds, clipIds: asked.clipIds, fromBeat: asked.fromBeat, toBeat: asked.toBeat, tail },
                },
              })),
            });
    setSending(false);
    setProblem(refused);
    if (refused !== null) return;
    toast(loops.length === 1 ? `“${names[0]}” is being made.` : `${loops.length} loops are being made.`);
    dialog.current?.close();
  };
  const bars = (asked.toBeat - asked.fromBeat) / bar;
  return (
    <dialog ref={dialog} className="modal" onClose={onClose} aria-label="Give back to the library">
      <form
        method="dialog"
        className="modal-box flex max-w-5xl flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void send();
        }}
      >
        <div>
          <h2>Give back to the library</h2>
          <p className="quiet">
            Bars {Number((asked.fromBeat / bar + 1).toFixed(2))} to {Number((asked.toBeat / bar).toFixed(2))} of “{project.name}”:{' '}
            {Number(bars.toFixed(2))} {bars === 1 ? 'bar' : 'bars'} at {tempoText(project.tempoBpm)}
            {project.key ? ` in ${keyName(project.key)}` : ''}, known exactly.
          </p>
        </div>
        <ul className="grid gap-2" aria-label="Loops that are made">
          {loops.map((loop) => (
            <li key={loop.key} className="panel flex flex-wrap items-center gap-2 px-2 py-1.5">
              <input
                className="input input-sm w-60"
                aria-label="Name"
                required
                maxLength={120}
                value={loop.name}
                onChange={({ target }) => change(loop.key, { name: target.value })}
              />
              <select
                className="select select-sm w-32"
                aria-label={`Part of its set: ${loop.name}`}
                value={loop.setRole ?? ''}
                onChange={({ target }) => change(loop.key, { setRole: target.value || null })}
              >
                <option value="">no part</option>
                {attributeRow('setRole').choices?.map((each) => (
                  <option key={each.value} value={each.value}>
                    {each.label}
                  </option>
                ))}
              </select>
              <span className="flex flex-wrap gap-1" role="group" aria-label={`Tracks in ${loop.name}`}>
                {tracks.map((track) => {
                  const isIn = loop.trackIds.includes(track.id);
                  return (
                    <button
                      key={track.id}
                      type="button"
                      className={`btn btn-xs ${isIn ? 'btn-neutral' : ''}`}
                      aria-pressed={isIn}
                      onClick={() =>
                        change(loop.key, {
                          trackIds: isIn ? loop.trackIds.filter((id) => id !== track.id) : [...loop.trackIds, track.id],
                        })
                      }
                    >
                      {track.name}
                    </button>
                  );
                })}
              </span>
              <span className="ml-auto flex items-center gap-1">
                <HearIt
                  className="btn-xs"
                  key={loop.trackIds.join()}
                  project={project}
                  fromBeat={asked.fromBeat}
                  make={() => ({ edit: onlyPart(project, loop.trackIds, asked.clipIds) })}
                />
                <button
                  type="button"
                  className="btn btn-ghost btn-xs btn-square"
                  aria-label={`Without ${loop.name}`}
                  disabled={loops.length === 1}
                  onClick={() => setLoops((before) => before.filter(({ key }) => key !== loop.key))}
                >
                  <Trash2 className="size-4" />
                </button>
              </span>
            </li>
          ))}
        </ul>
        {tracks.length > 1 && (
          <div className="flex flex-wrap items-center gap-2">
            <span className="caps">Add</span>
            <button type="button" className="btn btn-xs" onClick={() => add(oneOfEach(keys(tracks.length), asked.name, tracks))}>
              One of each track
            </button>
            <select
              className="select select-xs w-44"
              aria-label="All without one track"
              value=""
              onChange={({ target }) => {
                const left = tracks.find(({ id }) => id === target.value);
                if (left) add([without(keys(1), asked.name, tracks, left)]);
              }}
            >
              <option value="">all without …</option>
              {tracks.map((track) => (
                <option key={track.id} value={track.id}>
                  without {track.name}
                </option>
              ))}
            </select>
          </div>
        )}
        <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
          <label className="flex items-center gap-2">
            <span className="caps">As</span>
            <select className="select select-sm w-52" value={as} onChange={({ target }) => setAs(target.value as typeof as)}>
              <option value="sound">sound, and what it is made of</option>
              <option value="notes" disabled={!hasNotes}>
                notes
              </option>
            </select>
          </label>
          {as === 'sound' && (
            <label className="flex items-center gap-2">
              <span className="caps">What rings on</span>
              <select className="select select-sm w-52" value={tail} onChange={({ target }) => setTail(target.value as Tail)}>
                {(Object.keys(tailWords) as Tail[]).map((each) => (
                  <option key={each} value={each}>
                    {tailWords[each]}
                  </option>
                ))}
              </select>
            </label>
          )}
        </div>
        <PackChoice pack={pack} onChange={setPack} />
        <SheetFields said={said} onChange={setSaid} madeOf={loopIdsIn({ tracks, patterns: project.patterns })} withRole={false} />
        {problem && (
          <p role="alert" className="text-error">
            {problem}
          </p>
        )}
        <div className="flex justify-end gap-2">
          <button type="button" className="btn btn-sm" onClick={() => dialog.current?.close()}>
            Cancel
          </button>
          <button className="btn btn-sm btn-primary" disabled={isSending || loops.some(({ trackIds }) => trackIds.length === 0)}>
            {loops.length === 1 ? 'Give it back' : `Give ${loops.length} back`}
          </button>
        </div>
      </form>
    </dialog>
  );
}
