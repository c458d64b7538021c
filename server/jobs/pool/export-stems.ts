import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { PassThrough } from 'node:stream';
import { ZipFile } from 'yazl';
import { projectEndBeat, type Project } from '~core/arrangement/tree';
import type { LoopSource } from '~core/arrangement/fit-request';
import { parseSmf, type MidiFile } from '~core/formats/smf/parse';
import { parseWav } from '~core/formats/wav/parse';
import { writeWav } from '~core/formats/wav/write';
import { instrumentOfPart, notesOfPart, writePartNotes } from '~core/making/notes-of-part';
import { loweringDbOf, lowerBy, peakRatioOf } from '~core/mix/overs';
import { renderStems, soundingTracks } from '~core/mix/stems';
import { fileNameOf } from '~core/names/file-name';
import { ratioToDb } from '~core/units/level';
import { endZip } from '../../storage/end-zip';
import { storage } from '../../storage/storage.server';
import { atRate, madeReady, wavOf } from './export-mix';
import type { Scratch, StemsRequest, StemsResult } from './protocol';
import { storedBytes } from './render-requests';
import { progressTeller } from './tell-progress';

/** Shares of the time that it takes to make the loops ready and to mix; the rest goes into the archive (measured on a demo project: 2, 10 and 11 of 23 seconds). */
const fitted = 0.1,
  mixed = 0.45;

/**
 * A piece for handing over, as a zip: the mixdown, a stem of each track that is heard, all as long as the piece and at one level, so that laid side
 * by side they are the mixdown; the notes that are played, a Standard MIDI File a track; and what was used.
 */
export async function exportStems(request: StemsRequest & Scratch): Promise<StemsResult> {
  const { project, sources, rateHz, bits, overs, credits, name: task, scratchFolder } = request,
    tell = progressTeller(task),
    { schedule, buffers, silentLoopIds } = await madeReady(request, (share) => tell(fitted * share)),
    tracks = soundingTracks(project, schedule),
    files: { readonly name: string; readonly path: string }[] = [],
    sum = [new Float32Array(schedule.endFrame), new Float32Array(schedule.endFrame)];
  let peakRatio = 0;
  // How loud the loudest of them is shows only when all are made: until then they wait as they are.
  const wait = async (name: string, channels: readonly Float32Array[]) => {
    const planes = atRate(channels, rateHz),
      path = join(scratchFolder, `${files.length}.wav`);
    peakRatio = Math.max(peakRatio, peakRatioOf(planes));
    await writeFile(path, writeWav({ sampleRateHz: rateHz, channels: planes }, 'float32'));
    files.push({ name, path });
    tell(fitted + (mixed * files.length) / (tracks.length + 1));
  };
  for (const { fileName, channels } of renderStems(project, schedule, buffers)) {
    await wait(`Stems/${fileName}.wav`, channels);
    channels.forEach((plane, side) => plane.forEach((value, i) => (sum[side][i] += value)));
  }
  const peakOfSum = peakRatioOf(sum);
  await wait('Mixdown.wav', sum);
  const loweredDb = bits !== 32 && overs === 'lower' ? loweringDbOf(peakRatio) : 0,
    notes = await notesByTrack(project, sources, tracks),
    zip = new ZipFile(),
    root = fileNameOf(project.name, 'Piece');
  for (const [index, { name, path }] of files.entries())
    zip.addReadStreamLazy(`${root}/${name}`, { compress: false }, (give) => {
      tell(fitted + mixed + ((1 - fitted - mixed) * index) / files.length);
      void finished(path, loweredDb, request).then(
        (bytes) => give(null, new PassThrough().end(bytes)),
        (error: unknown) => give(error, new PassThrough().end()),
      );
    });
  for (const { name, bytes } of notes) zip.addBuffer(Buffer.from(bytes), `${root}/${name}`);
  zip.addBuffer(Buffer.from(credits), `${root}/Used loops.txt`);
  const { stagedId, sha256, bytes } = await storage.stage(endZip(zip));
  return {
    zip: { stagedId, sha256, bytes },
    stems: files.length - 1,
    noteFiles: notes.length,
    peakDbfs: peakOfSum > 0 ? ratioToDb(peakOfSum) : null,
    loweredDb,
    silentLoopIds,
  };
}

/** A sound that waited, in the form that was asked for. */
async function finished(path: string, loweredDb: number, form: StemsRequest): Promise<Uint8Array> {
  const { channels } = parseWav(new Uint8Array(await readFile(path)));
  lowerBy(channels, loweredDb);
  return wavOf(channels, form);
}

/** The notes of each track that plays some, called as its stem. */
async function notesByTrack(
  project: Project,
  sources: readonly LoopSource[],
  tracks: ReturnType<typeof soundingTracks>,
): Promise<{ readonly name: string; readonly bytes: Uint8Array }[]> {
  const midi = new Map<number, MidiFile>();
  for (const { loopId, media, soundSha } of sources) if (media === 'midi') midi.set(loopId, parseSmf(await storedBytes(soundSha)));
  return tracks.flatMap(({ track, fileName }) => {
    const heard = { ...project, tracks: [{ ...track, clips: track.clips.filter(({ muted }) => !muted) }] },
      notes = notesOfPart(heard, sources, ({ loopId }) => midi.get(loopId) ?? null);
    if (notes.length === 0) return [];
    const bytes = writePartNotes({ ...heard, name: track.name }, notes, projectEndBeat(project), instrumentOfPart(heard, sources));
    return [{ name: `Notes/${fileName}.mid`, bytes }];
  });
}
