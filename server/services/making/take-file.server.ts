import { Readable } from 'node:stream';
import { extensionOf, formatsByExtension } from '~core/formats/sniff';
import { Pack } from '../../db/models/library';
import { MakingRow } from '../../db/models/makings';
import { addJob } from '../../jobs/queue.server';
import { bounded } from '../../storage/bounded';
import { keepFile } from '../../storage/keeping.server';

/** What the group records or drops onto the workbench goes here until it is made into something. */
const takesPack = 'Recorded and dropped';

/** Takes a sound that was recorded or dropped: it becomes a loop of the group's own. @param tempoBpm of the project it was recorded over @returns the number of its making, or what is wrong in words */
export async function takeFile(personId: number, rawName: string, tempoBpm: number | null, body: Readable): Promise<number | string> {
  const fileName = rawName.trim().slice(0, 120);
  if (!(extensionOf(fileName) in formatsByExtension) || extensionOf(fileName) === 'mid') {
    body.resume();
    return 'The workbench takes sounds: WAV, AIFF, FLAC, MP3, Ogg or Opus.';
  }
  const [pack] = await Pack.findOrCreate({
    where: { name: takesPack, isOwn: true, archivedAt: null },
    defaults: { name: takesPack, vendor: '', licence: '', description: '', addedBy: personId, isOwn: true },
  });
  try {
    return await keepFile(Readable.from(bounded(body)), async ({ sha256 }, transaction) => {
      const row = await MakingRow.create(
        {
          personId,
          packId: pack.id,
          fileSha256: sha256,
          how: { kind: 'file', fileName, tempoBpm, from: null },
          sheet: {
            name: fileName.replace(/\.\w+$/, '').slice(0, 120) || 'Take',
            kind: null,
            setName: '',
            setRole: null,
            instrument: null,
            genre: [],
            character: [],
            tags: [],
            landingSeconds: null,
            chords: '',
          },
        },
        { transaction },
      );
      await addJob('make-loop', { makingId: row.id }, `make-${row.id}`, transaction);
      return row.id;
    });
  } catch (error) {
    if (error instanceof RangeError) return error.message;
    throw error;
  }
}
