import { useCallback, useMemo, useState } from 'react';
import { Piano, X } from 'lucide-react';
import { clipsOfPattern, makeOwn, writeFollowed } from '~core/arrangement/acts/patterns';
import type { Edit } from '~core/arrangement/edit';
import { keyAt } from '~core/arrangement/harmony/harmony';
import { oneNote } from '~core/arrangement/pattern/one-note';
import { notesOfClip } from '~core/arrangement/pattern/plan-notes';
import type { Pattern, SoundingNote } from '~core/arrangement/pattern/pattern';
import type { Clip, Project, Track } from '~core/arrangement/tree';
import { beatsPerBar } from '~core/units/time';
import { useEngine } from '~/audio/hooks';
import { newId } from '~/ui/new-id';
import { keepKeys } from '~/ui/keep-keys';
import { useProjectStore } from '~/ui/project-store';
import { toast } from '~/ui/toast';
import { Field } from '../project-head';
import { InstrumentSelect } from './instrument-select';
import { NoteTools } from './note-tools';
import { RecordKeys } from './record-keys';
import { Roll } from './roll';
import { useNoteActs } from './use-note-acts';

const leastPixels = 8,
  mostPixels = 400;

const noGhosts: readonly SoundingNote[] = [];

/** What is heard of a pattern the first time it goes round in a clip, in its own beats. */
const ghostsOf = (clip: Clip, pattern: Pattern, project: Project): readonly SoundingNote[] =>
  notesOfClip(
    { ...clip, startBeat: clip.startBeat - clip.offsetBeats, offsetBeats: 0, lengthBeats: pattern.lengthBeats },
    pattern,
    project,
  ).map((note) => ({ ...note, startBeat: note.startBeat - clip.startBeat + clip.offsetBeats }));

/** Of the chosen notes those that are there still; the same set where all are. */
function stillThere(notes: Pattern['notes'], chosen: ReadonlySet<string>): ReadonlySet<string> {
  const there = notes.flatMap(({ id }) => (chosen.has(id) ? id : []));
  return there.length === chosen.size ? chosen : new Set(there);
}

/** The editor of a pattern below the timeline, opened on one of the clips that play it. */
export function NotesEditor({
  project,
  track,
  clip,
  pattern,
  doubted,
  onClose,
}: {
  project: Project;
  track: Track;
  clip: Clip;
  pattern: Pattern;
  /** Notes to be looked at first. */
  doubted?: readonly string[];
  onClose: () => void;
}) {
  const store = useProjectStore(),
    engine = useEngine(),
    bar = beatsPerBar(project.meter),
    [chosen, setChosen] = useState<ReadonlySet<string>>(() => new Set(doubted)),
    choose = useCallback((ids: Iterable<string>) => setChosen(new Set(ids)), []),
    [gridBeats, setGridBeats] = useState(1 / 4),
    [beatPixels, setBeatPixels] = useState(() => Math.max(24, Math.min(80, 1000 / pattern.lengthBeats))),
    [isPlaying, setPlaying] = useState(false),
    there = stillThere(pattern.notes, chosen),
    acts = useNoteActs(pattern, there, choose),
    clipBeat = clip.startBeat - clip.offsetBeats,
    instrument = clip.overrides.instrument ?? pattern.instrument,
    ghosts = useMemo(() => (clip.chordWay === null ? noGhosts : ghostsOf(clip, pattern, project)), [clip, pattern, project]),
    uses = clipsOfPattern(project, pattern.id).length,
    make = (edit: Edit | null, otherwise: string) => {
      const wrong = edit ? store.edit(edit) : otherwise;
      if (wrong) toast(wrong);
    },
    setClip = (changes: Partial<Clip>) => make({ kind: 'set-clip', clipId: clip.id, trackId: track.id, changes }, '');
  return (
    <section
      aria-label={`Notes of ${pattern.name}`}
      className="flex h-[58%] min-h-72 shrink-0 flex-col border-t border-base-300 bg-base-100"
      onKeyDown={keepKeys}
    >
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1.5 border-b border-base-300 bg-base-200 px-3 py-1.5">
        <Field
          plain
          label="Name of the pattern"
          width="w-40"
          value={pattern.name}
          onCommit={(name) => make({ kind: 'set-pattern', patternId: pattern.id, changes: { name } }, '')}
        />
        <label className="flex items-center gap-1">
          <span className="caps">Bars</span>
          <input
            key={pattern.lengthBeats}
            type="number"
            className="input input-xs w-16"
            min={1}
            max={64}
            defaultValue={Number((pattern.lengthBeats / bar).toFixed(2))}
            onBlur={({ target }) => {
              const lengthBeats = Math.max(1, Math.min(64, target.valueAsNumber || 1)) * bar;
              if (lengthBeats !== pattern.lengthBeats) make({ kind: 'set-pattern', patternId: pattern.id, changes: { lengthBeats } }, '');
            }}
            onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
          />
        </label>
        {!pattern.isDrums && (
          <InstrumentSelect
            value={instrument}
            onChange={(id) => {
              setClip({ overrides: { ...clip.overrides, instrument: id } });
              void engine.hearOnce(oneNote({ pitch: 60, velocity: 96 }, id, false));
            }}
          />
        )}
        <span className="quiet" title="Its sounds are calculated here; none is a recording of an instrument">
          calculated
        </span>
        {!pattern.isDrums && (
          <>
            <select
              className="select select-xs w-40"
              aria-label="How it goes with the chords"
              value={clip.chordWay ?? 'stay'}
              onChange={({ target }) => setClip({ chordWay: target.value === 'stay' ? null : 'roots' })}
            >
              <option value="stay">keeps its chords</option>
              <option value="roots">follows the chords</option>
            </select>
            {clip.chordWay !== null && <span className="quiet">outlined: as it is heard</span>}
            {clip.chordWay !== null && (
              <button
                className="btn btn-xs"
                title="What it is over these chords, written into notes that stay"
                onClick={() => make(writeFollowed(project, clip.id, newId), '')}
              >
                Write it down
              </button>
            )}
          </>
        )}
        <span className="quiet">{uses === 1 ? 'played by this clip alone' : `${uses} clips play it and change with it`}</span>
        {uses > 1 && (
          <button className="btn btn-xs" onClick={() => make(makeOwn(project, clip.id, newId), '')}>
            Make this one its own
          </button>
        )}
        <button className={`btn btn-xs ${isPlaying ? 'btn-neutral' : ''}`} aria-pressed={isPlaying} onClick={() => setPlaying(!isPlaying)}>
          <Piano className="size-3.5" aria-hidden="true" /> Play and record
        </button>
        <button className="btn btn-ghost btn-xs btn-square ml-auto" aria-label="Close the notes" onClick={onClose}>
          <X className="size-3.5" />
        </button>
        <div className="basis-full" />
        <NoteTools
          pattern={pattern}
          acts={acts}
          chosenCount={there.size}
          gridBeats={gridBeats}
          onGrid={setGridBeats}
          musicalKey={keyAt(project, clip.startBeat)}
          barBeats={bar}
          onChoose={choose}
        />
        {isPlaying && (
          <RecordKeys
            pattern={pattern}
            instrument={instrument}
            clipBeat={clipBeat}
            gridBeats={gridBeats}
            tempoBpm={project.tempoBpm}
            acts={acts}
          />
        )}
      </div>
      <Roll
        pattern={pattern}
        acts={acts}
        chosen={there}
        onChoose={choose}
        gridBeats={gridBeats}
        barBeats={bar}
        beatPixels={beatPixels}
        onZoom={(times) => setBeatPixels((before) => Math.max(leastPixels, Math.min(mostPixels, before * times)))}
        harmony={project}
        clipBeat={clipBeat}
        colour={track.colour}
        ghosts={ghosts}
        onHear={(pitch, velocity) => void engine.hearOnce(oneNote({ pitch, velocity }, instrument, pattern.isDrums))}
      />
    </section>
  );
}
