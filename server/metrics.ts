/** How it goes, for whoever watches servers: numbers in Prometheus' text form, on a port of their own. */
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { count, eq, gt, sql } from 'drizzle-orm';
import type { RequestHandler } from 'express';
import { AggregatorRegistry, collectDefaultMetrics, Gauge, Histogram, Registry } from 'prom-client';
import { tables as t } from './database/index.ts';
import type { House } from './house/index.ts';

export type Metrics = { registry: Registry; watch: RequestHandler };

export function houseMetrics(house: House): Metrics {
  const registry = new Registry();
  collectDefaultMetrics({ register: registry });
  AggregatorRegistry.setRegistries([registry]);
  const calls = new Histogram({
    name: 'north_pebble_call_seconds',
    help: 'How long calls of the API took, by route and answer.',
    labelNames: ['method', 'route', 'status'],
    buckets: [0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 10],
    registers: [registry],
  });
  // Several processes tell of the same house: the most recent is meant, not their sum.
  const one = { registers: [registry], aggregator: 'max' as const };
  new Gauge({
    ...one,
    name: 'north_pebble_effects_waiting',
    help: 'What waits to be done outside, by connection; tried in vain before or not.',
    labelNames: ['connection', 'tried'],
    async collect() {
      this.reset();
      const tried = gt(t.effects.attempts, 0);
      const rows = await house.db
        .select({ connection: t.effects.connection, tried: sql<number>`${tried}`, n: count() })
        .from(t.effects)
        .where(eq(t.effects.state, 'waiting'))
        .groupBy(t.effects.connection, sql`${tried}`);
      for (const row of rows) this.set({ connection: row.connection, tried: row.tried ? 'yes' : 'no' }, row.n);
    },
  });
  new Gauge({
    ...one,
    name: 'north_pebble_requests',
    help: 'Requests by their status.',
    labelNames: ['status'],
    async collect() {
      this.reset();
      const rows = await house.db
        .select({ status: t.requests.status, n: count() })
        .from(t.requests)
        .groupBy(t.requests.status);
      for (const { status, n } of rows) this.set({ status }, n);
    },
  });
  new Gauge({
    ...one,
    name: 'north_pebble_silence_seconds',
    help: 'How long ago delivery and timers last went round.',
    labelNames: ['what'],
    collect() {
      for (const [what, at] of house.beats) this.set({ what }, (Date.now() - at) / 1000);
    },
  });
  return {
    registry,
    watch(request, response, next) {
      const end = calls.startTimer();
      response.once('finish', () => {
        const route = typeof request.route?.path === 'string' ? request.route.path : 'none';
        end({ method: request.method, route, status: String(response.statusCode) });
      });
      next();
    },
  };
}

/**
 * Answers `/metrics` on a port of its own, which is for the inside of the house.
 * @param text what is told; all processes together where there are several
 */
export async function serveMetrics(port: number, host: string, text: () => Promise<string>): Promise<Server> {
  const server = createServer((request, response) => {
    if (request.url !== '/metrics') {
      response.writeHead(404).end();
      return;
    }
    text().then(
      told => response.writeHead(200, { 'Content-Type': 'text/plain; version=0.0.4; charset=utf-8' }).end(told),
      () => response.writeHead(503).end(),
    );
  });
  await new Promise<void>((done, fail) => {
    server.once('error', fail);
    server.listen(port, host, done);
  });
  return server;
}

export const portOf = (server: Server): number => (server.address() as AddressInfo).port;

/** Of all the processes that share a port, as the one that started them knows it. */
export const ofAllProcesses = (): (() => Promise<string>) => {
  const all = new AggregatorRegistry();
  return () => all.clusterMetrics();
};
