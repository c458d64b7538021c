import { useEffect, useState } from 'react';
import { Volume2, VolumeX } from 'lucide-react';
import { keyMoveOf, otherWayRound } from '~core/arrangement/acts/key';
import { applyEdit, type Edit } from '~core/arrangement/edit';
import { findKeys, type KeyFound } from '~core/arrangement/harmony/find-key';
import { soundingClips, sumBetween } from '~core/arrangement/harmony/sounding-classes';
import { ofLoop, type Project } from '~core/arrangement/tree';
import { keyName, transposeKey, type Key } from '~core/theory/key';
import { homeChords } from '~core/theory/suggest-chords';
import { beatsPerBar } from '~core/units/time';
import { useEngine, useEngineState } from '~/audio/hooks';
import { KeySelect } from '~/ui/harmony/key-select';
import { useProject, useProjectStore } from '~/ui/project-store';
import { toast } from '~/ui/toast';
import { useRangeMeant } from './range-meant';

/** The key of the piece and of its sections, and which it could be. */
export function KeyTools({ project, chosenClipIds }: { project: Project; chosenClipIds: readonly string[] }) {
  const store = useProjectStore(),
    engine = useEngine(),
    loops = useProject((state) => state.loops),
    drone = useEngineState((state) => state.free.droneNote),
    meant = useRangeMeant(project),
    bar = beatsPerBar(project.meter),
    [found, setFound] = useState<readonly KeyFound[] | null>(null),
    sources = new Map([...loops].map(([id, { source }]) => [id, source]));
  useEffect(
    () => () => {
      if (engine.store.getState().free.droneNote !== null) engine.setFree({ droneNote: null });
    },
    [engine],
  );
  /** Changes a key, and says what goes along; the other way round is one press away. */
  const change = (edit: Edit) => {
    const wrong = store.edit(edit);
    if (wrong) return void toast.error(wrong);
    const after = applyEdit(project, edit).project,
      moved = after.tracks
        .flatMap(({ clips }) => clips)
        .filter((clip) => {
          const before = keyMoveOf(project, clip, sources),
            now = keyMoveOf(after, clip, sources);
          return before !== now && now !== 0;
        });
    if (moved.length === 0) return;
    toast(`${moved.length === 1 ? 'One clip goes' : `${moved.length} clips go`} along, the shortest way; drums keep their pitch.`, {
      action: {
        label: 'The other way round',
        onClick: () => {
          const now = store.store.getState().project,
            other =
              now &&
              otherWayRound(
                now,
                moved.map(({ id }) => id),
                sources,
              );
          if (other) store.edit(other);
        },
      },
    });
  };
  const find = () => {
    const chosen = new Set(chosenClipIds),
      // As recorded, so that the key it is in now says nothing.
      asRecorded: Project = {
        ...project,
        tracks: project.tracks.map((track) => ({
          ...track,
          clips: track.clips
            .filter(({ id }) => chosen.size === 0 || chosen.has(id))
            .map((clip) => ({ ...clip, followKey: false, chordWay: null, shiftMarks: null })),
        })),
      },
      { classes, bass } = sumBetween(soundingClips(asRecorded, sources), meant.fromBeat, meant.toBeat),
      keyed = asRecorded.tracks.flatMap(({ clips }) => clips).flatMap((clip) => ofLoop(sources, clip)?.key ?? []),
      keys = findKeys(
        classes,
        bass,
        keyed.map((key) => ({ key, weight: 1 / keyed.length })),
      );
    if (keys.length === 0) toast('Nothing with a pitch is heard there.');
    setFound(keys.slice(0, 4));
  };
  const isDroning = (key: Key) => drone === key.tonic + 48;
  return (
    <div className="flex min-w-0 flex-col gap-2">
      <h3 className="font-semibold">Key</h3>
      <div className="flex flex-wrap items-center gap-2">
        <KeySelect label="Key of the piece" value={project.key} onChange={(key) => change({ kind: 'set-project', changes: { key } })} />
        {project.key && (
          <span className="flex gap-1">
            {[-2, -1, 1, 2].map((by) => (
              <button
                key={by}
                className="btn btn-xs"
                aria-label={`${by > 0 ? `+${by}` : `−${-by}`}: all in ${keyName(transposeKey(project.key as Key, by))}`}
                onClick={() => change({ kind: 'set-project', changes: { key: transposeKey(project.key as Key, by) } })}
              >
                {by > 0 ? `+${by}` : `−${-by}`}
              </button>
            ))}
          </span>
        )}
      </div>
      {project.key && <p className="quiet">At home in it: {homeChords(project.key).join('  ')}</p>}
      {project.sections.length > 0 && (
        <ul className="flex flex-col gap-1">
          {project.sections.map((section) => (
            <li key={section.id} className="flex items-center gap-2">
              <span className="min-w-0 flex-1 truncate">
                {section.name} <span className="quiet">from bar {section.startBeat / bar + 1}</span>
              </span>
              <KeySelect
                label={`Key from ${section.name} on`}
                none="as before"
                value={section.key ?? null}
                onChange={(key) => change({ kind: 'set-section', sectionId: section.id, changes: { key } })}
              />
            </li>
          ))}
        </ul>
      )}
      <button className="btn btn-sm self-start" onClick={find}>
        Find the key of {chosenClipIds.length > 0 ? 'the chosen clips' : 'what is placed'}
      </button>
      {found && found.length > 0 && (
        <ul className="flex flex-col gap-1" aria-label="Keys found">
          {found.map(({ key, probability }) => (
            <li key={keyName(key)} className="flex items-center gap-2">
              <span className="w-28 font-medium">{keyName(key)}</span>
              <meter className="h-2 w-20" min={0} max={1} value={probability} aria-label={`${Math.round(probability * 100)} %`} />
              <span className="quiet w-9">{Math.round(probability * 100)} %</span>
              <button
                className={`btn btn-xs ${isDroning(key) ? 'btn-accent' : ''}`}
                aria-pressed={isDroning(key)}
                onClick={() =>
                  engine.setFree(
                    isDroning(key) ? { droneNote: null } : { droneNote: key.tonic + 48, droneThird: key.mode === 'minor' ? 3 : 4 },
                  )
                }
              >
                {isDroning(key) ? <VolumeX className="size-3.5" /> : <Volume2 className="size-3.5" />} drone
              </button>
              <button className="btn btn-xs" onClick={() => change({ kind: 'set-project', changes: { key } })}>
                Take it
              </button>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
