import { createHash } from 'node:crypto';
import { Readable } from 'node:stream';
import type { CreationAttributes, Transaction } from 'sequelize';
import { arrangeDemo, demoBars, type DemoMix } from '~core/arrangement/demo-mix';
import { overviewPeaks } from '~core/analysis/peaks/peaks';
import { parseWav } from '~core/formats/wav/parse';
import { beatsPerBar, beatsToSeconds } from '~core/units/time';
import { selectRows } from '../db/connection';
import { demoCandidatesSql } from '../db/queries/pack-page';
import { Pack } from '../db/models/library';
import { PackDemo } from '../db/models/pack-demo';
import { announce } from '../events/announce.server';
import { exportInPool } from '../jobs/pool/pool.server';
import { addJob } from '../jobs/queue.server';
import { dropUnreferred, keepFile } from '../storage/keeping.server';
import { findRowsById } from './search.server';

export interface DemoLine {
  readonly state: 'none' | 'queued' | 'done' | 'failed';
  readonly layers: DemoMix['layers'];
  readonly tempoBpm: number | null;
  /** 240 bytes, base64. */
  readonly overview: string | null;
  readonly lengthSeconds: number;
  readonly fileSha: string | null;
  readonly message: string | null;
}

const none: DemoLine = { state: 'none', layers: [], tempoBpm: null, overview: null, lengthSeconds: 0, fileSha: null, message: null };

export async function findDemo(packId: number): Promise<DemoLine> {
  const row = await PackDemo.findByPk(packId);
  return row
    ? {
        state: row.state,
        layers: row.layers,
        tempoBpm: row.tempoBpm,
        overview: row.overview?.toString('base64') ?? null,
        lengthSeconds: row.lengthSeconds ?? 0,
        fileSha: row.fileSha256,
        message: row.message,
      }
    : none;
}

/** Asks for a pack's demo mix; one that is there and made of the same is kept. @returns whether there is such a pack */
export async function requestDemo(packId: number): Promise<boolean> {
  if ((await Pack.count({ where: { id: packId } })) === 0) return false;
  await addJob('render-demo', { packId }, `render-demo-${packId}`);
  return true;
}

/** What a pack's demo mix would be today; null for a pack that has nothing to play in time. */
async function arrangeFor(pack: Pack): Promise<{ mix: DemoMix; rows: Awaited<ReturnType<typeof findRowsById>> } | null> {
  const found = await selectRows<{ id: number; chroma: number[] }>(demoCandidatesSql, [pack.id]),
    chroma = new Map(found.map(({ id, chroma: notes }) => [id, notes])),
    rows = await findRowsById(
      found.map(({ id }) => id),
      pack.addedBy,
    ),
    mix = arrangeDemo(
      pack.name,
      rows
        .sort((a, b) => a.id - b.id)
        .map(({ id, source, title, meter, tempoConfidence, keyConfidence }) => ({
          source,
          title,
          meter,
          tempoConfidence: tempoConfidence ?? 0,
          keyConfidence: keyConfidence ?? 0,
          chroma: chroma.get(id) ?? [],
        })),
    );
  return mix && { mix, rows: rows.filter(({ id }) => mix.layers.some(({ loopId }) => loopId === id)) };
}

/** The job: arranges, renders through the same schedule as the live engine, and keeps it. */
export async function renderDemo(packId: number): Promise<void> {
  const pack = await Pack.findByPk(packId);
  if (!pack) return;
  const arranged = await arrangeFor(pack),
    before = await PackDemo.findByPk(packId),
    planHash = createHash('sha256')
      .update(JSON.stringify(arranged?.mix.project ?? null))
      .update(JSON.stringify(arranged?.rows.map(({ source }) => source) ?? null))
      .digest('hex');
  if (before?.state === 'done' && before.planHash === planHash) return announce({ kind: 'pack', packId });
  if (!arranged) await keepRow(packId, { state: 'failed', planHash, message: 'There is no loop in it that could be played in time.' });
  else {
    const { mix, rows } = arranged,
      { wav } = await exportInPool({
        name: `demo-${packId}`,
        project: mix.project,
        sources: rows.map(({ source }) => source),
        bits: 16,
        rateHz: 44100,
        overs: 'lower',
      }),
      lengthSeconds = beatsToSeconds(demoBars * beatsPerBar(mix.project.meter), mix.project.tempoBpm),
      overview = Buffer.from(overviewPeaks(parseWav(wav).channels, 240));
    await keepFile(Readable.from([Buffer.from(wav.buffer, wav.byteOffset, wav.byteLength)]), async ({ sha256 }, transaction) => {
      await keepRow(
        packId,
        {
          state: 'done',
          planHash,
          layers: mix.layers,
          tempoBpm: mix.project.tempoBpm,
          bars: demoBars,
          overview,
          lengthSeconds,
          fileSha256: sha256,
          message: null,
        },
        transaction,
      );
    });
  }
  await dropUnreferred([before?.fileSha256 ?? null]);
  await announce({ kind: 'pack', packId });
}

const empty = { layers: [], tempoBpm: null, bars: null, overview: null, lengthSeconds: null, fileSha256: null, message: null };

async function keepRow(
  packId: number,
  values: Partial<CreationAttributes<PackDemo>> & Pick<PackDemo, 'state'>,
  transaction?: Transaction,
): Promise<void> {
  await PackDemo.upsert({ ...empty, ...values, packId, madeAt: new Date() }, { transaction });
}

export async function failDemo(packId: number): Promise<void> {
  if (await Pack.findByPk(packId))
    await keepRow(packId, { state: 'failed', message: 'The demo mix could not be made. A loop’s file may be missing.' });
  await announce({ kind: 'pack', packId });
}
