import { problem } from '~server/http/problem.server';
import { batchForm, readForm } from '~server/forms/forms';
import { countParam, idParam, readFormData } from '~server/http/input.server';
import { requirePersonForData } from '~server/http/session.server';
import { listBatches, listBatchFiles, listOpenBatches } from '~server/services/imports/progress.server';
import { dropBatch, openBatch, startBatch } from '~server/services/imports/receive.server';
import { dropUploads, settleComplete } from '~server/services/imports/uploads.server';
import { cancelBatch, mayStop, pauseBatch, resumeBatch, retryBatch, takeBackBatch } from '~server/services/imports/stop.server';
import type { Route } from './+types/imports';

/** The latest batches, or the files of one (`batch`). */
export async function loader({ request }: Route.LoaderArgs) {
  const person = await requirePersonForData(request),
    { searchParams } = new URL(request.url),
    batch = searchParams.get('batch');
  return batch
    ? { batches: [], open: [], files: await listBatchFiles(idParam(batch), countParam(searchParams.get('offset'), 0, 10_000_000)) }
    : { batches: await listBatches(), open: await listOpenBatches(person.id), files: [] };
}

/** Opens a batch, starts it, stops it, takes it back. */
export async function action({ request }: Route.ActionArgs) {
  const person = await requirePersonForData(request);
  const form = await readFormData(request),
    intent = String(form.get('intent'));
  if (intent === 'open') {
    const read = await readForm(batchForm, form);
    return read.ok ? { batchId: await openBatch(read.values, person.id) } : problem(400, 'Some of it cannot be taken.', read.errors);
  }
  const batchId = idParam(String(form.get('batchId')));
  if (!(await mayStop(batchId, person))) return problem(403, 'Only a keeper can stop or take back what others bring in.');
  if (intent === 'start') {
    await settleComplete(batchId, person.id);
    await dropUploads(batchId);
    await startBatch(batchId, person.id);
  } else if (intent === 'drop') {
    await dropUploads(batchId);
    await dropBatch(batchId);
  } else if (intent === 'pause') await pauseBatch(batchId);
  else if (intent === 'resume') await resumeBatch(batchId);
  else if (intent === 'retry') await retryBatch(batchId);
  else if (intent === 'cancel') await cancelBatch(batchId, person.id);
  else if (intent === 'take-back' || intent === 'restore')
    return { count: await takeBackBatch(batchId, intent === 'take-back', person.id) };
  else return problem(400, 'Say what is to be done with the import.');
  return { ok: true };
}
