import { setTimeout as wait } from 'node:timers/promises';
import { Upload } from 'tus-js-client';

/** Signs in and gives a fetch that stays so; one that fails, since a part of the server is away, is tried again for a minute. */
export async function signIn(address, name, password) {
  const response = await patiently(() =>
    fetch(`${address}/sign-in`, { method: 'POST', redirect: 'manual', body: new URLSearchParams({ name, password }) }),
  );
  const cookie = response.headers.get('set-cookie')?.split(';')[0];
  if (!cookie) throw new Error(`${name} could not sign in (${response.status}).`);
  const get = (path, options = {}) =>
    patiently(async () => {
      const answer = await fetch(address + path, { ...options, headers: { ...options.headers, Cookie: cookie } });
      if (answer.status >= 500) throw new Error(`${path} answered ${answer.status}`);
      return answer;
    });
  return Object.assign(get, { address, cookie });
}

async function patiently(ask) {
  for (let tries = 0; ; tries++)
    try {
      return await ask();
    } catch (error) {
      if (tries >= 120) throw error;
      await wait(500);
    }
}

const post = async (get, fields) => (await get('/api/v1/imports', { method: 'POST', body: new URLSearchParams(fields) })).json();

/** Opens an import, sends its files by the tus protocol, a few at once, and starts it. @returns its number */
export async function sendImport(get, packName, files, { atOnce = 3, pieceBytes = 2 ** 20 } = {}) {
  const { batchId } = await post(get, { intent: 'open', packName }),
    waiting = [...files];
  const work = async () => {
    for (let file = waiting.shift(); file; file = waiting.shift()) await sendFile(get, batchId, file, pieceBytes);
  };
  await Promise.all(Array.from({ length: atOnce }, work));
  await post(get, { intent: 'start', batchId: String(batchId) });
  return batchId;
}

const sendFile = (get, batchId, [path, bytes], pieceBytes) =>
  new Promise((done, fail) => {
    new Upload(bytes, {
      endpoint: `${get.address}/api/v1/uploads`,
      chunkSize: pieceBytes,
      retryDelays: Array.from({ length: 60 }, () => 500),
      metadata: { batchId: String(batchId), path },
      headers: { Cookie: get.cookie },
      onShouldRetry: (error) => {
        const status = error.originalResponse?.getStatus() ?? 0;
        return status === 0 || status >= 500 || status === 423;
      },
      onSuccess: () => done(),
      onError: fail,
    }).start();
  });

/** Waits until an import has ended. @returns it, with its files */
export async function waitForImport(get, batchId, { timeoutMs = 600_000, onLook = () => {} } = {}) {
  for (const until = Date.now() + timeoutMs; ; await wait(200)) {
    const batch = (await (await get('/api/v1/imports')).json()).batches.find((each) => each.id === batchId);
    onLook(batch);
    if (batch && ['done', 'failed', 'cancelled'].includes(batch.state)) {
      const { files } = await (await get(`/api/v1/imports?batch=${batchId}`)).json();
      return { ...batch, files };
    }
    if (Date.now() > until) throw new Error(`Import ${batchId} still waits after ${timeoutMs / 1000} s (${batch?.state}).`);
  }
}
