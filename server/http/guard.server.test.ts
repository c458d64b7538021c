import { Agent, createServer, request as ask, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { createReadableStreamFromReadable } from '@react-router/node';
import express from 'express';
import { guards, isReadable } from './guard.server';

test.each([
  ['/loops?q=50%25%20off', true],
  ['/loops?q=50%', true],
  ['/loops?q=a%00', false],
  ['/api/v1/loops/1/tags/%E0%A4%A', false],
])('the address %s can be read: %p', (url, expected) => expect(isReadable(url)).toBe(expected));

describe('at the door', () => {
  let server: Server;
  const agent = new Agent({ keepAlive: true, maxSockets: 1 });
  beforeAll(async () => {
    const app = express();
    app.use(guards);
    // As a route does that refuses before it looks at what was sent: somebody holds the body, and does not read it.
    app.use((request, response) => {
      createReadableStreamFromReadable(request);
      response.status(404).send('not there');
    });
    server = createServer(app).listen(0, '127.0.0.1');
    await new Promise((done) => server.once('listening', done));
  });
  afterAll(async () => {
    agent.destroy();
    await new Promise((done) => server.close(done));
  });
  const send = (path: string, bytes: number, headers: Record<string, string> = {}): Promise<{ status: number; type: string }> =>
    new Promise((done, fail) => {
      const { port } = server.address() as AddressInfo,
        sent = ask(
          { port, host: '127.0.0.1', path, method: 'PUT', agent, headers: { 'Content-Length': bytes, ...headers } },
          (response) => {
            response.resume().once('end', () => done({ status: response.statusCode ?? 0, type: response.headers['content-type'] ?? '' }));
          },
        );
      sent.once('error', fail);
      sent.end(Buffer.alloc(bytes));
    });

  test('who is refused before the body was read is answered on the same connection again', async () => {
    for (let k = 0; k < 4; k++) expect((await send('/api/v1/loops/x/rating', 250_000)).status).toBe(404);
    expect((await send('/api/v1/loops/x/rating', 0)).status).toBe(404);
  });
  test('where much is left of it the connection is given up, and the next one answered', async () => {
    expect((await send('/api/v1/makings/files', 8_000_000)).status).toBe(404);
    expect((await send('/api/v1/loops/x/rating', 0)).status).toBe(404);
  });
  test('what is too much, cannot be read, or comes from elsewhere is refused in the shape of the API', async () => {
    const problem = expect.stringContaining('application/problem+json');
    expect(await send('/api/v1/loops/1/tags/%00', 0)).toEqual({ status: 400, type: problem });
    expect(await send('/api/v1/loops/1/rating', 0, { Origin: 'http://elsewhere.example' })).toEqual({ status: 403, type: problem });
    expect(await send('/api/v1/loops/1/rating', 300_000)).toEqual({ status: 413, type: problem });
  });
});
