import { once } from 'node:events';
import type { AddressInfo } from 'node:net';
import express from 'express';
import { openLibrary, type Library, type Services } from './services';

let library: Library, s: Services, address: string, close: () => void;
beforeAll(async () => {
  library = await openLibrary();
  ({ s } = library);
  const { eventStream } = await import('~server/http/event-stream.server'),
    server = express().get('/events', eventStream).listen(0, '127.0.0.1');
  await once(server, 'listening');
  address = `http://127.0.0.1:${(server.address() as AddressInfo).port}/events`;
  close = () => {
    server.closeAllConnections();
    server.close();
  };
});
afterAll(async () => {
  close();
  await library.close();
});

interface Stream {
  readonly token: string;
  /** As it is asked for. */
  readonly cookie: string;
  /** Everything up to what is waited for, or to the end. */
  until(words: string): Promise<string>;
}

/** @param query behind the address */
async function readStream(headers: Record<string, string>, query = ''): Promise<Stream['until']> {
  const response = await fetch(address + query, { headers }),
    reader = (response.body as ReadableStream<Uint8Array>).getReader();
  let all = '';
  return async (words) => {
    while (!all.includes(words)) {
      const { done, value } = await reader.read();
      if (done) break;
      all += Buffer.from(value).toString();
    }
    return all;
  };
}

/** The stream of somebody who has just signed in, once it hears. */
async function openStream(): Promise<Stream> {
  const signedIn = await s.people.signIn('Ada Quill', 'a long password', '127.0.0.1');
  if (!signedIn.ok) throw new Error('not signed in');
  const { sessionCookie } = await import('~server/http/session.server'),
    [cookie] = (await sessionCookie(signedIn.token, 60, new Request('http://127.0.0.1/'))).split(';'),
    stream: Stream = { token: signedIn.token, cookie, until: await readStream({ cookie }) };
  // Asked for again and again, since nothing tells when it hears.
  const asking = setInterval(() => void s.events.announce({ kind: 'import', batchId: 1 }), 50);
  await stream.until('"batchId":1');
  clearInterval(asking);
  return stream;
}

/** Announces several at once: they come in one piece, with no moment between them. */
async function announceTogether(events: readonly object[]): Promise<void> {
  await s.db.sequelize.query(`select ${events.map((_, k) => `pg_notify('garnetfinch', $${k + 1})`).join()}`, {
    bind: events.map((event) => JSON.stringify(event)),
  });
}

test('a stream that ends with its session takes nothing along: what is told in the same moment reaches the others', async () => {
  const leaving = await openStream(),
    staying = await openStream(),
    { sessionName } = await import('~server/services/sessions.server');
  await announceTogether([
    { kind: 'signed-out', sessions: [sessionName(leaving.token)] },
    { kind: 'import', batchId: 2 },
    { kind: 'import', batchId: 3 },
  ]);
  expect(await staying.until('"batchId":3')).toMatch(/"batchId":2[^]*"batchId":3/);
  expect(await leaving.until('never')).not.toContain('"batchId":3');
});
test('where the connection that hears was broken, streams end, so that pages ask for what they have missed', async () => {
  const stream = await openStream();
  await s.db.sequelize.query(
    "select pg_terminate_backend(pid) from pg_stat_activity where query = 'listen garnetfinch' and datname = current_database()",
  );
  expect(await stream.until('never')).not.toContain('never');
  // And who asks again hears again.
  expect(await (await openStream()).until('"batchId":1')).toContain('"batchId":1');
});
test('a page is told what was announced between its making and its hearing, and after a break what came in it', async () => {
  const { cookie, until } = await openStream(),
    mark = s.events.liveMark();
  await announceTogether([
    { kind: 'import', batchId: 21 },
    { kind: 'making', makingId: 1, personId: library.person + 1 },
    { kind: 'import', batchId: 22 },
  ]);
  await until('"batchId":22');
  const all = await (await readStream({ cookie }, `?since=${encodeURIComponent(mark)}`))('"batchId":22'),
    [, between] = /id: ?(\S+)\ndata:[^\n]*"batchId":21/.exec(all) ?? [];
  expect(all).toMatch(/"batchId":21[^]*"batchId":22/);
  expect(all).not.toMatch(/makingId|missed/);
  // The browser's own way of asking for it again; it goes before what is in the address.
  const rest = await (await readStream({ cookie, 'Last-Event-ID': between }, `?since=${encodeURIComponent(mark)}`))('"batchId":22');
  expect(rest).not.toMatch(/"batchId":21|missed/);
});
test('where it is not known what came since, the stream says so', async () => {
  const { cookie } = await openStream();
  for (const query of ['', '?since=', '?since=elsewhere:12', '?since=a&since=b'])
    expect(await (await readStream({ cookie }, query))('missed')).toContain('"kind":"missed"');
});
