import { useState } from 'react';
import { Minus, Plus } from 'lucide-react';
import { copyChords, layChords, progressionOver, putChord, transposeChords } from '~core/arrangement/acts/chords';
import { findChords, type BarChord } from '~core/arrangement/harmony/find-chords';
import { keyAt } from '~core/arrangement/harmony/harmony';
import { soundingClips } from '~core/arrangement/harmony/sounding-classes';
import { snapped } from '~core/arrangement/grid';
import type { ChordMark, Project } from '~core/arrangement/tree';
import { formatChordLine, parseChordLine } from '~core/theory/chord-line';
import { belongingWords } from '~core/theory/degrees';
import { chordsOfProgression, parseDegrees, progressions } from '~core/theory/progressions';
import { beatsPerBar } from '~core/units/time';
import { useEngine } from '~/audio/hooks';
import { useProject, useProjectStore } from '~/ui/project-store';
import { toast } from '~/ui/toast';
import { FoundChords } from './found-chords';
import { PlayedChord } from './played-chord';
import { useRangeMeant } from './range-meant';

/** Chords as a line of text, from progressions, moved and copied, found in what is placed, or played. */
export function ChordTools({ project, chosenClipIds }: { project: Project; chosenClipIds: readonly string[] }) {
  const store = useProjectStore(),
    engine = useEngine(),
    loops = useProject((state) => state.loops),
    bar = beatsPerBar(project.meter),
    meant = useRangeMeant(project),
    key = keyAt(project, meant.fromBeat),
    text = formatChordLine(project.chords, bar),
    [found, setFound] = useState<readonly BarChord[] | null>(null),
    [degrees, setDegrees] = useState(''),
    set = (chords: readonly ChordMark[]) => {
      const wrong = store.edit({ kind: 'set-chords', chords });
      if (wrong) toast.error(wrong);
    },
    lay = (symbols: readonly string[]) =>
      set(
        layChords(
          project.chords,
          progressionOver(symbols, meant.toBeat - meant.fromBeat, bar),
          meant.fromBeat,
          meant.toBeat - meant.fromBeat,
        ),
      );
  const find = () => {
    const chosen = new Set(chosenClipIds),
      sounding = soundingClips(project, new Map([...loops].map(([id, { source }]) => [id, source]))).filter(
        ({ clip }) => chosen.size === 0 || chosen.has(clip.id),
      ),
      chords = findChords(sounding, project, meant.fromBeat, meant.toBeat, bar);
    if (chords.length === 0) toast('Nothing with a pitch is heard there.');
    setFound(chords);
  };
  return (
    <div className="flex min-w-0 flex-col gap-2">
      <h3 className="font-semibold">
        Chords <span className="quiet font-normal">· {meant.words}</span>
      </h3>
      <form
        className="flex gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          const line = parseChordLine(String(new FormData(event.currentTarget).get('chords')), bar);
          if (!line.ok) return void toast.error(`“${line.symbol}” is no chord. Write them like Dm7, F♯m, B♭/D; N.C. where none sounds.`);
          set(line.chords);
        }}
      >
        <input
          key={text}
          name="chords"
          className="input input-sm min-w-0 flex-1"
          aria-label="Chords, one a bar; a dot keeps the one before; a comma parts a bar"
          placeholder="one a bar: Dm/G . Am,E7"
          defaultValue={text}
        />
        <button className="btn btn-sm">Set</button>
      </form>
      <div className="flex flex-wrap items-center gap-2">
        <select
          className="select select-sm w-64"
          aria-label="Progression"
          value=""
          disabled={!key}
          onChange={({ target }) => {
            const chosen = progressions.find(({ id }) => id === target.value);
            if (chosen && key) lay(chordsOfProgression(chosen, key));
          }}
        >
          <option value="">{key ? 'A progression …' : 'A progression: set a key first'}</option>
          {progressions
            .filter(({ mode }) => mode === key?.mode)
            .map(({ id, degrees: steps, label }) => (
              <option key={id} value={id}>
                {steps.length > 6 ? `${steps.slice(0, 4).join(' ')} …` : steps.join(' ')} · {label}
              </option>
            ))}
        </select>
        <form
          className="flex gap-1"
          onSubmit={(event) => {
            event.preventDefault();
            if (!key) return void toast('Degrees need a key: set one first.');
            const read = parseDegrees(degrees, key);
            if ('wrong' in read) return void toast.error(`“${read.wrong}” is no degree. Write them like i ♭VII iv V7.`);
            if (read.chords.length > 0) lay(read.chords);
          }}
        >
          <input
            className="input input-sm w-32"
            aria-label="Degrees"
            placeholder="i VII VI V"
            value={degrees}
            onChange={({ target }) => setDegrees(target.value)}
          />
          <button className="btn btn-sm">Lay</button>
        </form>
        <span className="flex items-center gap-1">
          <span className="caps">Transpose</span>
          {[-1, 1].map((by) => (
            <button
              key={by}
              className="btn btn-xs btn-square"
              aria-label={`Chords ${by > 0 ? 'up' : 'down'} a semitone`}
              onClick={() => set(transposeChords(project.chords, meant.fromBeat, meant.toBeat, by, key))}
            >
              {by > 0 ? <Plus className="size-3.5" /> : <Minus className="size-3.5" />}
            </button>
          ))}
        </span>
        <button
          className="btn btn-sm"
          title="The chords of the range once more, from the playhead on"
          onClick={() => set(copyChords(project.chords, meant.fromBeat, meant.toBeat, snapped(engine.positionBeat(), bar)))}
        >
          Copy to the playhead
        </button>
        <button className="btn btn-sm" onClick={find}>
          Find in {chosenClipIds.length > 0 ? 'the chosen clips' : 'what is placed'}
        </button>
      </div>
      {found && found.length > 0 && (
        <FoundChords
          found={found}
          bar={bar}
          onTake={(chord, symbol) => {
            set(putChord(project.chords, chord.startBeat, symbol));
            setFound(found.filter((each) => each !== chord));
          }}
          onTakeAll={(chords) => {
            set(chords.reduce<readonly ChordMark[]>((line, each) => putChord(line, each.startBeat, each.symbol), project.chords));
            setFound(null);
          }}
          onLeave={() => setFound(null)}
        />
      )}
      <PlayedChord musicalKey={key} onPut={(symbol) => set(putChord(project.chords, snapped(engine.positionBeat(), bar), symbol))} />
      <p className="quiet">
        {Object.values(belongingWords).map(({ label, says }) => (
          <span key={label} className="mr-3 inline-block">
            <span
              className={`mr-1 rounded-sm px-1 ${label === 'outside' ? 'bg-warning text-warning-content' : label === 'borrowed' ? 'bg-base-300 underline decoration-dotted underline-offset-3' : 'bg-base-300'}`}
            >
              {label}
            </span>
            {says}
          </span>
        ))}
      </p>
    </div>
  );
}
