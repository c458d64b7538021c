import { standsUnder, type UsedLoop } from '~contracts/used-loop';
import type { WholeLoop } from '~contracts/whole-loop';
import { heardTracks, loopIdOf, loopIdsIn, patternOf, type Project } from '~core/arrangement/tree';
import { clearanceOf, releaseWords } from '~core/library/licence';
import { keyName } from '~core/theory/key';
import { selectRows } from '../db/connection';
import { licencesSql } from '../db/queries/exports';
import { originsOf } from './exchange/search.server';
import { sourcesOfMade } from './making/provenance.server';
import { readTree } from './projects.server';
import { findRowsById } from './search.server';

/** The loops of a piece with where they come from and under what they stand. @param loops that are heard in it */
export async function usedLoops(project: Project, loops: readonly WholeLoop[]): Promise<UsedLoop[]> {
  const ids = loops.map(({ id }) => id),
    licences = await selectRows<{ id: number; licence: string }>(licencesSql, [loops.map((loop) => loop.packId)]),
    origins = await originsOf(ids),
    madeOf = await sourcesOfMade(ids),
    byPack = new Map(licences.map(({ id, licence }) => [id, licence])),
    tracksOf = (loopId: number) => [
      ...new Set(
        heardTracks(project)
          .filter(({ clips }) => clips.some((clip) => (loopIdOf(clip) ?? patternOf(project, clip)?.fromLoopId) === loopId))
          .map(({ name }) => name),
      ),
    ];
  return loops.map(({ id, title, fileName, packId, packName, vendor }) => {
    const origin = origins.get(id) ?? null;
    return {
      loopId: id,
      title,
      fileName,
      packId,
      packName,
      vendor,
      licence: origin?.licence || byPack.get(packId) || '',
      origin: origin && { author: origin.author, pageUrl: origin.pageUrl, sourceName: origin.sourceName },
      // What was made here stands under the licences of what it was made of.
      madeOf: (madeOf.get(id) ?? []).map((source) => ({ title: source.title, packName: source.packName, licence: source.licence })),
      tracks: tracksOf(id),
    };
  });
}

/** What is heard in a project as it is now; null when there is none. */
export async function usedIn(
  projectId: number,
  personId: number,
): Promise<{ readonly project: Project; readonly used: UsedLoop[] } | null> {
  const project = await readTree(projectId);
  if (!project) return null;
  const heard = { ...project, tracks: heardTracks(project) };
  return { project, used: await usedLoops(project, await findRowsById(loopIdsIn(heard), personId)) };
}

/** Whether a loop may come out in a piece, as its licences are read, in a line. */
function releaseOf(loop: UsedLoop): string {
  const clearance = clearanceOf(standsUnder(loop)),
    { words, wantsCredit } = clearance;
  return [`${releaseWords(clearance)}${words ? ` (${words})` : ''}`, ...(wantsCredit ? ['wants credit'] : [])].join(', ');
}

/** What is heard in a piece, from which pack, under which licence, as plain text. */
export function creditsText(project: Project, used: readonly UsedLoop[]): string {
  const lines = used.map((loop) => {
    const { title, fileName, packName, vendor, licence, origin, madeOf, tracks } = loop;
    return [
      title,
      `file:    ${fileName}`,
      `pack:    ${packName}${vendor ? ` (${vendor})` : ''}`,
      `licence: ${licence || 'not stated'}`,
      ...(origin ? [`author:  ${origin.author}`, `page:    ${origin.pageUrl} (${origin.sourceName})`] : []),
      ...madeOf.map((source) => `made of: ${source.title}, ${source.packName}; licence: ${source.licence || 'not stated'}`),
      `release: ${releaseOf(loop)}`,
      `tracks:  ${tracks.join(', ')}`,
    ].join('\n  ');
  });
  return `${project.name}\n${project.tempoBpm} bpm, ${project.key ? keyName(project.key) : 'no key'}, ${project.meter}\n\nUsed in this piece (release: as the words of the licences are read; they are what counts)\n\n${lines.join('\n\n')}\n`;
}
