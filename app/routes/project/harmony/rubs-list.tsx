import { useState } from 'react';
import { rubInWords, type Rub } from '~core/arrangement/harmony/clash-meter';
import { findClip, type Project } from '~core/arrangement/tree';
import { useEngine } from '~/audio/hooks';
import { askMend, useRubs } from '~/ui/harmony/rubs';
import { useProject, useProjectStore } from '~/ui/project-store';
import { toast } from '~/ui/toast';

const mostShown = 40;

/** Where notes rub, the hardest first within the piece: why, where, and one act that mends it. */
export function RubsList({ project, onChooseClips }: { project: Project; onChooseClips: (clipIds: string[]) => void }) {
  const rubs = useRubs(),
    engine = useEngine(),
    store = useProjectStore(),
    loops = useProject((state) => state.loops),
    [mending, setMending] = useState<Rub | null>(null),
    nameOf = (clipId: string) => findClip(project, clipId)?.track.name ?? 'a clip that is gone';
  const go = (rub: Rub) => {
    engine.seek(rub.startBeat);
    onChooseClips([rub.clipId, ...(rub.otherClipId ? [rub.otherClipId] : [])]);
  };
  const mend = async (rub: Rub) => {
    setMending(rub);
    const found = await askMend(rub, project, loops);
    setMending(null);
    if (!found) return void toast('Nothing simple mends it: move one of the two by hand, or put another in its place.');
    const wrong = store.edit(found.edit);
    if (wrong) return void toast.error(wrong);
    toast(`${nameOf(found.clipId)}: ${found.does}. ${Math.round(found.gain * 100)} % less rubs.`, {
      action: { label: 'Undo', onClick: store.undoOfLast() },
    });
  };
  return (
    <div className="flex min-w-0 flex-col gap-2 pr-8">
      <h3 className="font-semibold">
        What rubs <span className="quiet font-normal">· {rubs.length === 0 ? 'nothing' : rubs.length}</span>
      </h3>
      {rubs.length === 0 ? (
        <p className="quiet">
          {project.chords.length === 0 && !project.key
            ? 'With a key or chords it is known which notes belong.'
            : 'No two notes that sound together are a semitone apart outside of key and chords.'}
        </p>
      ) : (
        <ul className="flex flex-col gap-1">
          {rubs.slice(0, mostShown).map((rub) => (
            <li key={`${rub.clipId} ${rub.otherClipId} ${rub.pitch} ${rub.otherPitch} ${rub.startBeat}`} className="flex items-start gap-2">
              <span className="min-w-0 flex-1">{rubInWords(rub, project, nameOf)}</span>
              <button className="btn btn-xs" onClick={() => go(rub)}>
                Go there
              </button>
              <button className="btn btn-xs" disabled={mending !== null} onClick={() => void mend(rub)}>
                {mending === rub ? 'Looking …' : 'Mend it'}
              </button>
            </li>
          ))}
        </ul>
      )}
      {rubs.length > mostShown && <p className="quiet">and {rubs.length - mostShown} more</p>}
    </div>
  );
}
