import { createHash } from 'node:crypto';
import express, { type Request, type Response } from 'express';
import { ZipFile } from 'yazl';
import { categories, offeredPacks, searchOffered, type OfferedLoop, type OfferedPack } from './catalogue';
import { frontPage, loopPage, packPage, tokenPage } from './pages';
import type { Sounds } from './sounds';

/** How the service behaves; `POST /control` changes it, for tests and for trying what happens. */
export interface Behaviour {
  /** Files that one token may take in a day. */
  dailyFiles: number;
  /** Each answer waits so long. */
  slowMs: number;
  /** So many of the next answers fail. */
  failNext: number;
}

const pageLoops = 30;

/** What is told of a loop. */
const told = ({ id, title, author, category, packId, fileName, stated, licence }: OfferedLoop, address: string) => ({
  id,
  title,
  author,
  category,
  pack: packId,
  file: fileName,
  tempo: stated.tempoBpm,
  bars: stated.bars,
  key: stated.key,
  licence,
  page: `${address}/loops/${id}`,
  preview: `${address}/v1/loops/${id}/preview.ogg`,
});

/** The token of a member, made of the name: this stands in for an account. */
export const tokenOf = (member: string): string => `pebble-${createHash('sha256').update(member).digest('hex').slice(0, 20)}`;
const isToken = (text: string): boolean => /^pebble-[0-9a-f]{20}$/.test(text);

/** An online exchange of loops, simulated: search, pages, previews, files and packs, tokens and daily limits, slow and failing when told to. */
export function exchangeService(
  sounds: Sounds,
  behaviour: Behaviour = { dailyFiles: 200, slowMs: 0, failNext: 0 },
  packs: readonly OfferedPack[] = offeredPacks,
) {
  const loops = packs.flatMap((pack) => pack.loops),
    app = express(),
    taken = new Map<string, number>();
  app.disable('x-powered-by');
  const addressOf = (request: Request): string => `${request.protocol}://${request.get('host')}`,
    loopOf = (request: Request) => loops.find(({ id }) => id === request.params.id),
    packOf = (request: Request) => packs.find(({ id }) => id === request.params.id),
    missing = (response: Response) => void response.status(404).json({ error: 'not here' });

  app.post('/control', express.json(), (request, response) => {
    for (const [name, value] of Object.entries(request.body as object))
      if (name in behaviour && typeof value === 'number') behaviour[name as keyof Behaviour] = value;
    if ((request.body as { forget?: boolean }).forget) taken.clear();
    response.json(behaviour);
  });
  app.post('/v1/tokens', express.json(), (request, response) => {
    const member = (request.body as { member?: unknown } | undefined)?.member;
    if (typeof member !== 'string' || member.trim() === '') response.status(400).json({ error: 'Say who you are.' });
    else response.json({ token: tokenOf(member) });
  });
  app.use((request, response, next) => {
    if (behaviour.failNext > 0) {
      behaviour.failNext--;
      response.status(503).json({ error: 'The tide is in. Try again later.' });
    } else if (behaviour.slowMs > 0) setTimeout(next, behaviour.slowMs);
    else next();
  });

  /** Who may take `count` files more today; answers for whom may not. */
  const mayTake = (request: Request, response: Response, count: number): boolean => {
    const token = /^Bearer (.+)$/.exec(request.get('Authorization') ?? '')?.[1] ?? '',
      day = new Date().toISOString().slice(0, 10),
      so = taken.get(`${token} ${day}`) ?? 0;
    if (!isToken(token)) {
      response.status(401).json({ error: 'A token is needed to take files.' });
      return false;
    }
    if (so + count > behaviour.dailyFiles) {
      response
        .status(429)
        .json({ error: `No more than ${behaviour.dailyFiles} files a day; ${Math.max(0, behaviour.dailyFiles - so)} are left today.` });
      return false;
    }
    taken.set(`${token} ${day}`, so + count);
    return true;
  };

  app.get('/', (_, response) => void response.send(frontPage(packs)));
  app.get('/token', (request, response) => {
    const { member } = request.query;
    response.send(tokenPage(typeof member === 'string' && member.trim() ? tokenOf(member.trim()) : null));
  });
  app.get('/packs/:id', (request, response) => {
    const pack = packOf(request);
    if (pack) response.send(packPage(pack));
    else missing(response);
  });
  app.get('/loops/:id', async (request, response) => {
    const loop = loopOf(request);
    if (loop) response.send(loopPage(loop, await sounds.overview(loop)));
    else missing(response);
  });
  app.get('/v1/loops', (request, response) => {
    const { words, category, page } = request.query,
      at = Math.max(0, Math.floor(Number(page ?? 0)) || 0),
      found = searchOffered(loops, typeof words === 'string' ? words : '', typeof category === 'string' && category ? category : null);
    response.json({
      total: found.length,
      page: at,
      pages: Math.ceil(found.length / pageLoops),
      categories,
      loops: found.slice(at * pageLoops, (at + 1) * pageLoops).map((loop) => told(loop, addressOf(request))),
    });
  });
  app.get('/v1/loops/:id', (request, response) => {
    const loop = loopOf(request);
    if (loop) response.json(told(loop, addressOf(request)));
    else missing(response);
  });
  app.get('/v1/loops/:id/waveform', async (request, response) => {
    const loop = loopOf(request);
    if (loop) response.json({ levels: await sounds.overview(loop) });
    else missing(response);
  });
  app.get('/v1/loops/:id/preview.ogg', async (request, response) => {
    const loop = loopOf(request);
    if (loop) response.type('audio/ogg').send(await sounds.preview(loop));
    else missing(response);
  });
  app.get('/v1/loops/:id/file', async (request, response) => {
    const loop = loopOf(request);
    if (!loop) missing(response);
    else if (mayTake(request, response, 1)) response.attachment(loop.fileName).send(await sounds.file(loop));
  });
  app.get('/v1/packs/:id', (request, response) => {
    const pack = packOf(request);
    if (!pack) return missing(response);
    const { id, title, author, licence, about } = pack;
    response.json({
      id,
      title,
      author,
      licence,
      about,
      page: `${addressOf(request)}/packs/${id}`,
      loops: pack.loops.map((loop) => told(loop, addressOf(request))),
    });
  });
  app.get('/v1/packs/:id/zip', async (request, response) => {
    const pack = packOf(request);
    if (!pack) return missing(response);
    if (!mayTake(request, response, pack.loops.length)) return;
    const zip = new ZipFile();
    response.attachment(`${pack.title}.zip`).type('application/zip');
    // It begins with the first file, while the others are still being made.
    zip.outputStream.pipe(response);
    zip.addBuffer(
      Buffer.from(`${pack.licence}.
${pack.title} by ${pack.author}
`),
      `${pack.title}/Licence.txt`,
    );
    for (const loop of pack.loops) zip.addBuffer(await sounds.file(loop), `${pack.title}/${loop.fileName}`);
    zip.end();
  });
  return app;
}
