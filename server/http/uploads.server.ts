import { randomBytes } from 'node:crypto';
import type { RequestHandler } from 'express';
import { Server } from '@tus/server';
import { mayAdd, settleUpload, touchBatch, uploadPrefix, uploadStore } from '../services/imports/uploads.server';
import { findSignedIn, type SignedIn } from '../services/sessions.server';
import { sessionToken } from './session.server';

export const uploadsPath = '/api/v1/uploads';
const largestBytes = 40 * 2 ** 30;

/** A refusal as the protocol's package takes it. */
const refusal = (status: number, words: string) => ({ status_code: status, body: words });

async function personOf(request: Request): Promise<SignedIn> {
  const person = await findSignedIn(await sessionToken(request));
  if (!person) throw refusal(401, 'Please sign in first.');
  return person;
}

/** The batch that an upload's own name says. */
const batchOf = (id: string | undefined): number => Number(/^b(\d{1,9})-/.exec(id ?? '')?.[1] ?? 0);

async function requireOpenBatch(batchId: number, person: SignedIn): Promise<void> {
  if (!(await mayAdd(batchId, person.id))) throw refusal(409, 'This import takes no more files.');
  await touchBatch(batchId);
}

let server: Server | null = null;
const uploads = (): Server =>
  (server ??= new Server({
    path: uploadsPath,
    datastore: uploadStore(),
    relativeLocation: true,
    maxSize: largestBytes,
    // The batch stands in the name, so that nobody else goes on with it, and all of a batch's are found.
    namingFunction: (_request, metadata) => `${uploadPrefix(Number(metadata?.batchId) || 0)}${randomBytes(12).toString('hex')}`,
    onIncomingRequest: async (request, id) => {
      const person = await personOf(request);
      if (request.method !== 'POST' && request.method !== 'OPTIONS') await requireOpenBatch(batchOf(id), person);
    },
    onUploadCreate: async (request, upload) => {
      await requireOpenBatch(Number(upload.metadata?.batchId) || 0, await personOf(request));
      if (!upload.metadata?.path) throw refusal(400, 'The file has no name.');
      return {};
    },
    onUploadFinish: async (request, upload) => {
      const person = await personOf(request),
        result = await settleUpload(upload.id, batchOf(upload.id), person.id, upload.metadata?.path ?? '');
      if (!result.ok) throw refusal(409, result.message);
      return {};
    },
  }));

/** Uploads that go on where they broke off, by the tus protocol (tus.io, 1.0.0). */
export const resumableUploads: RequestHandler = (request, response, next) => {
  uploads().handle(request, response).catch(next);
};
