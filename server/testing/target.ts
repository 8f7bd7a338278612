/** A system outside for tests: it checks signatures as our guide says, and answers as it is told. */
import { createHmac, timingSafeEqual } from 'node:crypto';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';

export type Received = { key: string; signed: boolean; body: Record<string, unknown> };
export type Reply = { status: number; body?: unknown; headers?: Record<string, string>; until?: Promise<void> };

export class Target {
  readonly received: Received[] = [];
  readonly secret = 'a secret of sixteen letters';
  #server: Server;
  reply: (received: Received) => Reply = () => ({ status: 200, body: {} });

  constructor() {
    this.#server = createServer(async (request, response) => {
      let text = '';
      for await (const part of request) text += part;
      const time = String(request.headers['pebble-time']);
      const given = Buffer.from(String(request.headers['pebble-signature']));
      const wanted = Buffer.from(`v1=${createHmac('sha256', this.secret).update(`${time}.${text}`).digest('hex')}`);
      const one = {
        key: String(request.headers['idempotency-key']),
        signed: given.length === wanted.length && timingSafeEqual(given, wanted),
        body: JSON.parse(text) as Record<string, unknown>,
      };
      this.received.push(one);
      const { status, body, headers, until } = this.reply(one);
      await until;
      response.writeHead(status, { 'Content-Type': 'application/json', ...headers });
      response.end(body === undefined ? '' : JSON.stringify(body));
    });
  }

  async listen(): Promise<string> {
    await new Promise<void>(done => this.#server.listen(0, '127.0.0.1', done));
    return `http://127.0.0.1:${(this.#server.address() as AddressInfo).port}/calls`;
  }

  close(): Promise<void> {
    this.#server.closeAllConnections();
    return new Promise(done => this.#server.close(() => done()));
  }
}
