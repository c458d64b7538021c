import { setRoleOf } from '~core/names/set-role';
import type { OutsideLoop } from '~contracts/outside';
import { Readable } from 'node:stream';
import type { WholeLoop } from '~contracts/whole-loop';
import { chooseFacts } from '~core/analysis/evidence/choose';
import { evidence, type Evidence } from '~core/analysis/facts';
import { keyName } from '~core/theory/key';
import { beatsPerBar } from '~core/units/time';
import { selectRows, sequelize } from '../../db/connection';
import { OutsideLoopRow } from '../../db/models/exchange';
import { forgetHeardSql, upsertOutsideSql } from '../../db/queries/exchange';
import { OutsideError, type ExchangeSource } from '../../exchange/source';
import { analyseInPool } from '../../jobs/pool/pool.server';
import type { AnalyseResult } from '../../jobs/pool/protocol';
import { dropUnreferred, keepFile, keepStaged } from '../../storage/keeping.server';
import { factColumns, measureColumns } from '../loop-columns';
import { toLoopRow, type RawLoopRow } from '../loop-rows';

/** What is stated outside is believed as much as a tag inside a file: mostly right, and not always. */
function evidenceStatedOutside({ tempoBpm, key, bars }: OutsideLoop): Evidence[] {
  const found: Evidence[] = [];
  if (tempoBpm !== null) found.push(evidence('tempo', 'tag', [{ value: tempoBpm, probability: 0.85 }], `its page says ${tempoBpm}`));
  if (key !== null) found.push(evidence('key', 'tag', [{ value: key, probability: 0.85 }], `its page says ${keyName(key)}`));
  if (bars !== null)
    found.push(evidence('beats', 'tag', [{ value: bars * beatsPerBar('4/4'), probability: 0.85 }], `its page says ${bars} bars`));
  return found;
}

/** Rows of what is known of a loop outside, made when there is none. @returns its number here */
export async function rememberOutside(source: string, loop: OutsideLoop): Promise<number> {
  const [row] = await selectRows<{ id: number }>(upsertOutsideSql, [source, loop.id, JSON.stringify(loop)]);
  return row.id;
}

/** Larger is no preview. */
const mostPreviewBytes = 64 * 2 ** 20;

/** Passes so much on and no more. */
async function* bounded(stream: Readable, name: string): AsyncGenerator<Buffer> {
  let bytes = 0;
  for await (const part of stream) {
    bytes += (part as Buffer).length;
    if (bytes > mostPreviewBytes) throw new OutsideError('gone', `${name} sends more than a preview should be.`);
    yield part as Buffer;
  }
}

/** What is being heard now: of two who ask at once the second waits for the first. */
const hearing = new Map<string, Promise<WholeLoop | string>>();

/**
 * A loop outside as one that can be heard over the project: its preview is fetched, decoded and listened to, once. Its id is negative, since it
 * is none of the library's.
 * @throws {OutsideError} @returns a sentence when the preview cannot be read
 */
export function hearOutside(source: ExchangeSource, outsideId: string): Promise<WholeLoop | string> {
  const name = `${source.id} ${outsideId}`,
    heard = hearing.get(name) ?? hearNow(source, outsideId).finally(() => hearing.delete(name));
  hearing.set(name, heard);
  return heard;
}

async function hearNow(source: ExchangeSource, outsideId: string): Promise<WholeLoop | string> {
  const loop = await source.loop(outsideId),
    id = await rememberOutside(source.id, loop),
    row = await OutsideLoopRow.findByPk(id, { rejectOnEmpty: true });
  if (row.heard && row.soundSha256) {
    await row.update({ heardAt: new Date() });
    return row.heard as WholeLoop;
  }
  const { fileSha256, bytes } = await keepFile(
    Readable.from(bounded(await source.preview(outsideId), source.name)),
    async ({ sha256, bytes }, transaction) => {
      await row.update({ fileSha256: sha256 }, { transaction });
      return { fileSha256: sha256, bytes };
    },
  );
  try {
    const result = await analyseInPool({ fileSha256, vendorPath: loop.fileName }, { name: `outside-${id}`, bytes });
    if (!result.ok) return result.message;
    return await keepHeard(row, loop, source, result);
  } finally {
    await row.update({ fileSha256: null });
    await dropUnreferred([fileSha256]);
  }
}

async function keepHeard(
  row: OutsideLoopRow,
  loop: OutsideLoop,
  source: ExchangeSource,
  result: Extract<AnalyseResult, { ok: true }>,
): Promise<WholeLoop | string> {
  const { sound } = result;
  if (sound === null) return 'There is no sound to hear.';
  const record = async (soundSha: string): Promise<WholeLoop> => asLoop(-row.id, loop, source.name, result, soundSha),
    keep = async ({ sha256 }: { sha256: string }, transaction: Parameters<Parameters<typeof keepFile>[1]>[1]) => {
      const heard = await record(sha256);
      await row.update({ soundSha256: sha256, heard, heardAt: new Date() }, { transaction });
      return heard;
    };
  return sound instanceof Uint8Array
    ? keepFile(Readable.from([Buffer.from(sound.buffer, sound.byteOffset, sound.byteLength)]), keep)
    : keepStaged(sound, keep);
}

function asLoop(
  id: number,
  loop: OutsideLoop,
  sourceName: string,
  result: Extract<AnalyseResult, { ok: true }>,
  soundSha: string,
): WholeLoop {
  const { measures } = result,
    facts = chooseFacts([...result.evidence, ...evidenceStatedOutside(loop)], { ...measures, readings: measures.detail?.readings }),
    columns = measureColumns({ measures, detail: measures.detail });
  return toLoopRow({
    ...factColumns(facts),
    isFill: setRoleOf(loop.fileName) === 'fill',
    id,
    title: loop.title,
    fileName: loop.fileName,
    media: 'audio',
    lengthSeconds: measures.lengthSeconds,
    loudnessLufs: columns.loudnessLufs ?? null,
    peakDbfs: columns.peakDbfs ?? null,
    soundSha,
    soundFrames: result.soundFrames,
    onsetFrames: columns.onsetFrames ?? [],
    faintFrames: columns.faintFrames ?? [],
    beatFrames: columns.beatFrames ?? [],
    fitDefaults: {},
    overview: (columns.overview ?? Buffer.alloc(0)).toString('base64'),
    packId: 0,
    packName: `${loop.author} on ${sourceName}`,
    vendor: loop.author,
    setId: null,
    setStem: null,
    addedAt: new Date(),
    addedBy: sourceName,
    favourite: false,
  } as RawLoopRow);
}

/** Forgets sounds that were only listened to, after a week. */
export async function forgetHeardOutside(): Promise<void> {
  const [rows] = await sequelize.query(forgetHeardSql);
  await dropUnreferred((rows as { file: string | null; sound: string | null }[]).flatMap(({ file, sound }) => [file, sound]));
}
