import type { OutsideLoop } from '~contracts/outside';
import { Readable } from 'node:stream';
import type { ReadableStream as NodeStream } from 'node:stream/web';
import pRetry, { AbortError } from 'p-retry';
import * as yup from 'yup';
import { parseKey } from '~core/theory/key';
import { OutsideError, type ExchangeSource } from './source';

const text = yup.string().defined().max(500);
const toldLoop = yup.object({
  id: text.required().matches(/^[\w-]{1,100}$/),
  title: text,
  author: text,
  category: text,
  pack: text,
  file: text,
  tempo: yup.number().nullable().min(20).max(400).default(null),
  bars: yup.number().nullable().min(0.25).max(512).default(null),
  key: yup.string().nullable().max(40).default(null),
  licence: text,
  page: yup
    .string()
    .required()
    .url()
    .matches(/^https?:/),
});
const toldPage = yup.object({
  total: yup.number().required().integer(),
  page: yup.number().required().integer(),
  pages: yup.number().required().integer(),
  categories: yup.array(text).required(),
  loops: yup.array(toldLoop).required().max(500),
});
const toldPack = yup.object({
  id: text,
  title: text,
  author: text,
  licence: text,
  about: text,
  page: yup
    .string()
    .required()
    .url()
    .matches(/^https?:/),
  loops: yup.array(toldLoop).required().max(5000),
});

const toLoop = (told: yup.InferType<typeof toldLoop>): OutsideLoop => ({
  id: told.id,
  title: told.title,
  author: told.author,
  category: told.category,
  packId: told.pack,
  fileName: told.file,
  tempoBpm: told.tempo,
  bars: told.bars,
  key: parseKey(told.key ?? ''),
  licence: told.licence,
  pageUrl: told.page,
});

/** How long an answer is waited for, until it begins; and how often what may pass is tried again. */
interface Patience {
  readonly answerMs: number;
  readonly retries: number;
  readonly firstWaitMs: number;
}
const usualPatience: Patience = { answerMs: 15_000, retries: 3, firstWaitMs: 400 };

/** The exchange that ships with Garnetfinch, over HTTP. @param address without a slash at its end */
export function pebblebank(address: string, patience: Patience = usualPatience): ExchangeSource {
  const name = 'Pebblebank';
  const unreachable = (why: string) =>
    new OutsideError('unreachable', `${name} does not answer (${why}). The library is not touched by that.`);

  /** One try. What stays so is not tried again. */
  async function once(path: string, token: string | null, signal: AbortSignal | undefined): Promise<Response> {
    let response: Response;
    const waiting = new AbortController(),
      limit = setTimeout(() => waiting.abort(), patience.answerMs);
    try {
      response = await fetch(`${address}${path}`, {
        headers: token === null ? {} : { Authorization: `Bearer ${token}` },
        signal: signal ? AbortSignal.any([signal, waiting.signal]) : waiting.signal,
      });
    } catch (error) {
      if (signal?.aborted) throw new AbortError(error as Error);
      throw unreachable(waiting.signal.aborted ? 'it took too long' : 'no connection');
    } finally {
      clearTimeout(limit);
    }
    if (response.ok) return response;
    const told = ((await response.json().catch(() => null)) as { error?: unknown } | null)?.error,
      words = typeof told === 'string' ? told.slice(0, 300) : `answer ${response.status}`;
    if (response.status === 404) throw new AbortError(new OutsideError('gone', `${name} no longer has it.`));
    if (response.status === 401 || response.status === 403)
      throw new AbortError(new OutsideError('refused', `${name} does not take the key: ${words}`));
    if (response.status === 429) throw new AbortError(new OutsideError('limit', `${name}: ${words}`));
    throw unreachable(words);
  }

  const ask = (path: string, token: string | null = null, signal?: AbortSignal): Promise<Response> =>
    pRetry(() => once(path, token, signal), {
      retries: patience.retries,
      minTimeout: patience.firstWaitMs,
      factor: 2,
      randomize: true,
      signal,
    });
  async function askJson<S extends yup.Schema>(path: string, schema: S, signal?: AbortSignal): Promise<yup.InferType<S>> {
    const response = await ask(path, null, signal);
    try {
      return schema.validateSync(await response.json(), { stripUnknown: true });
    } catch (error) {
      if (error instanceof yup.ValidationError || error instanceof SyntaxError) throw unreachable('its answer makes no sense');
      throw error;
    }
  }
  const stream = async (path: string, token: string | null = null): Promise<Readable> =>
    Readable.fromWeb((await ask(path, token)).body as unknown as NodeStream);
  const part = (id: string): string => encodeURIComponent(id);

  return {
    id: 'pebblebank',
    name,
    keyUrl: `${address}/token`,
    search: async ({ words, category, page }, signal) => {
      const found = await askJson(`/v1/loops?${new URLSearchParams({ words, category, page: String(page) })}`, toldPage, signal);
      return { ...found, loops: found.loops.map(toLoop) };
    },
    loop: async (id) => toLoop(await askJson(`/v1/loops/${part(id)}`, toldLoop)),
    pack: async (id) => {
      const { page: pageUrl, loops, ...rest } = await askJson(`/v1/packs/${part(id)}`, toldPack);
      return { ...rest, pageUrl, loops: loops.map(toLoop) };
    },
    preview: (id) => stream(`/v1/loops/${part(id)}/preview.ogg`),
    file: (id, token) => stream(`/v1/loops/${part(id)}/file`, token),
    packZip: (id, token) => stream(`/v1/packs/${part(id)}/zip`, token),
  };
}
