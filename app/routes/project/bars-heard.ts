import { fitClip } from '~core/arrangement/plan';
import { heardTracks, ofLoop, type Project, type Section } from '~core/arrangement/tree';
import { dbToRatio } from '~core/units/level';
import { beatsPerBar } from '~core/units/time';
import type { WholeLoop } from '~contracts/whole-loop';
import { decodeOverview } from '~/ui/waveform';

const perBar = 16;

/**
 * What is heard in each bar of a section, a level by track and sixteenth of the bar: from the loops' pictures, where what plays there in the bar
 * lies in them.
 */
export function barsHeard(project: Project, section: Section, loops: ReadonlyMap<number, WholeLoop>): number[][] {
  const barBeats = beatsPerBar(project.meter),
    bars = Math.max(1, Math.round(section.lengthBeats / barBeats)),
    tracks = heardTracks(project),
    pictures = new Map<number, Uint8Array>();
  return Array.from({ length: bars }, (_, bar) => {
    const found = new Array<number>(tracks.length * perBar).fill(0);
    for (const [place, track] of tracks.entries())
      for (const clip of track.clips) {
        const row = ofLoop(loops, clip);
        if (!row) continue;
        const picture = pictures.get(row.id) ?? decodeOverview(row.overview);
        pictures.set(row.id, picture);
        const { cycleBeats, cycleFrames } = fitClip(clip, row.source, project),
          level = dbToRatio(track.gainDb + clip.gainDb);
        for (let step = 0; step < perBar; step++) {
          const beat = section.startBeat + (bar + step / perBar) * barBeats - clip.startBeat;
          if (beat < 0 || beat >= clip.lengthBeats) continue;
          const into = beat + clip.offsetBeats,
            share = (Number.isFinite(cycleFrames) ? into % cycleBeats : into) / cycleBeats;
          if (share >= 1) continue;
          const at = Math.floor(share * picture.length),
            to = Math.max(at + 1, Math.floor(at + (barBeats / perBar / cycleBeats) * picture.length));
          found[place * perBar + step] = Math.max(found[place * perBar + step], (Math.max(0, ...picture.slice(at, to)) / 255) * level);
        }
      }
    return found;
  });
}
