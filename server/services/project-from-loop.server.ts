import { randomUUID } from 'node:crypto';
import { emptyProject, newClip, newTrack, type Project } from '~core/arrangement/tree';
import { fitHeard } from '~core/arrangement/place';
import { beatsPerBar, meters, parseMeter } from '~core/units/time';
import { createProject } from './projects.server';
import { findRowsById } from './search.server';

const barsOfStart = 8;

/** The meter of a piece for a loop: of one whose meter has no name that with as many beats in a bar, if there is one. */
function meterFor(meter: string | null, barBeats: number): string {
  return meter !== null && parseMeter(meter)
    ? meter
    : (meters.find((each) => beatsPerBar(each) === barBeats && each.endsWith('/4')) ?? '4/4');
}

/** Starts a project from a loop: it takes the loop's tempo, key and meter, and the loop is on its first track, repeated to 8 bars. */
export async function projectFromLoop(loopId: number, personId: number): Promise<{ id: number } | { errors: Record<string, string> }> {
  const [row] = await findRowsById([loopId], personId);
  if (!row) return { errors: { loop: 'That loop is no longer there.' } };
  const tempoBpm = row.source.tempoBpm ?? 120,
    base = emptyProject(
      row.title.slice(0, 100),
      Math.min(300, Math.max(30, tempoBpm)),
      row.source.key,
      meterFor(row.meter, row.source.barBeats),
    );
  const { cycleBeats } = fitHeard(row.source, base);
  const wanted = barsOfStart * beatsPerBar(base.meter),
    lengthBeats = row.source.kind === 'loop' ? Math.max(cycleBeats, Math.ceil(wanted / cycleBeats) * cycleBeats) : cycleBeats;
  const project: Project = {
    ...base,
    tracks: [
      newTrack({
        id: randomUUID(),
        name: row.title,
        clips: [newClip({ id: randomUUID(), loopId, startBeat: 0, lengthBeats })],
      }),
    ],
  };
  return { id: await createProject(project, personId) };
}
