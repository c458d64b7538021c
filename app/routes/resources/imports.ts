import { data } from 'react-router';
import { batchForm, readForm } from '~server/forms/forms';
import { requirePersonForData } from '~server/http/session.server';
import { listBatches, listBatchFiles } from '~server/services/imports/progress.server';
import { dropBatch, openBatch, startBatch } from '~server/services/imports/receive.server';
import { cancelBatch, retryBatch, takeBackBatch } from '~server/services/imports/stop.server';
import type { Route } from './+types/imports';

/** The latest batches, or the files of one (`batch`). */
export async function loader({ request }: Route.LoaderArgs) {
  await requirePersonForData(request);
  const batch = Number(new URL(request.url).searchParams.get('batch'));
  return batch > 0 ? { batches: [], files: await listBatchFiles(batch) } : { batches: await listBatches(), files: [] };
}

/** Opens a batch, starts it, stops it, takes it back. */
export async function action({ request }: Route.ActionArgs) {
  const person = await requirePersonForData(request);
  const form = await request.formData(),
    intent = String(form.get('intent')),
    batchId = Number(form.get('batchId'));
  if (intent === 'open') {
    const read = await readForm(batchForm, form);
    return read.ok ? { batchId: await openBatch(read.values, person.id) } : data({ errors: read.errors }, { status: 400 });
  }
  if (!Number.isInteger(batchId) || batchId <= 0) return data({ error: 'No import was named.' }, { status: 400 });
  if (intent === 'start') await startBatch(batchId, person.id);
  else if (intent === 'drop') await dropBatch(batchId);
  else if (intent === 'retry') await retryBatch(batchId);
  else if (intent === 'cancel') await cancelBatch(batchId, person.id);
  else if (intent === 'take-back' || intent === 'restore')
    return { count: await takeBackBatch(batchId, intent === 'take-back', person.id) };
  return { ok: true };
}
