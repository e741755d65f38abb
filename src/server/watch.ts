import { AsyncLocalStorage } from 'node:async_hooks';
import pino, { type Logger } from 'pino';
import { AggregatorRegistry, collectDefaultMetrics, Counter, Gauge, Histogram, Registry } from 'prom-client';
import type { Pool } from 'pg';
import { hasSiblings, measuresOfAll } from './siblings';

/** What a request did at the database, while it is asked for. */
interface Trace {
  readonly queries: { readonly ms: number; readonly sql: string }[];
}

/** A query is told by its beginning: what was put in is not told at all. */
const SQL_TOLD = 160;
/** The slowest queries of a slow request that are told. */
const QUERIES_TOLD = 5;
const BUCKETS_s = [0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10, 30];

interface Watch {
  readonly log: Logger;
  readonly registry: Registry;
  readonly requests: Histogram<'method' | 'route' | 'status'>;
  readonly queries: Histogram;
  readonly problems: Counter<'code'>;
  readonly traces: AsyncLocalStorage<Trace>;
  readonly pools: Set<Pool>;
}

/** From so many milliseconds on a request is told in the log with what it did; null: none is. */
function slowFrom(): number | null {
  const said = Number(process.env['VANNER_SLOW_MS'] ?? '');
  return Number.isFinite(said) && said > 0 ? said : null;
}

function made(): Watch {
  const registry = new Registry();
  collectDefaultMetrics({ register: registry, prefix: 'vanner_' });
  if (hasSiblings()) {
    // Hears the process that adds up what all of them measured.
    new AggregatorRegistry();
    AggregatorRegistry.setRegistries([registry]);
  }
  const pools = new Set<Pool>();
  const sum = (of: (p: Pool) => number): number => [...pools].reduce((n, p) => n + of(p), 0);
  const gauge = (name: string, help: string, of: (p: Pool) => number): Gauge =>
    new Gauge({
      name,
      help,
      registers: [registry],
      collect() {
        this.set(sum(of));
      },
    });
  gauge('vanner_database_connections', 'Connections to the database that are open.', (p) => p.totalCount);
  gauge('vanner_database_connections_idle', 'Connections to the database that nobody uses.', (p) => p.idleCount);
  gauge('vanner_database_waiting', 'Requests that wait for a connection to the database.', (p) => p.waitingCount);
  return {
    // Lines of JSON on the standard error output, as they happen: what is written last before an end is not lost.
    log: pino(
      { level: process.env['VANNER_LOG'] ?? 'warn', base: { app: 'vanner', pid: process.pid } },
      pino.destination({ fd: 2, sync: true }),
    ),
    registry,
    requests: new Histogram({
      name: 'vanner_http_request_seconds',
      help: 'How long answers of the API take, by route.',
      labelNames: ['method', 'route', 'status'],
      buckets: BUCKETS_s,
      registers: [registry],
    }),
    queries: new Histogram({
      name: 'vanner_database_query_seconds',
      help: 'How long the database takes for a query, those of pages too.',
      buckets: BUCKETS_s,
      registers: [registry],
    }),
    problems: new Counter({
      name: 'vanner_problems_total',
      help: 'Answers that were refused or failed, by their code.',
      labelNames: ['code'],
      registers: [registry],
    }),
    traces: new AsyncLocalStorage<Trace>(),
    pools,
  };
}

const holder = globalThis as { vannerWatch?: Watch };
/** One for the process, whichever bundle of the server asks. */
const watch = (): Watch => (holder.vannerWatch ??= made());

export const log = (): Logger => watch().log;

/** Keeps an eye on a pool's connections. */
export const watchPool = (pool: Pool): void => void watch().pools.add(pool);

/** A query was answered. */
export function noteQuery(ms: number, sql: string): void {
  const { queries, traces } = watch();
  queries.observe(ms / 1000);
  traces.getStore()?.queries.push({ ms, sql });
}

/** An answer is a problem. */
export const noteProblem = (code: string): void => watch().problems.inc({ code });

/** An address as the route it is of: what a route is given of its address is told by its name, and there are no more kinds than routes. */
export function routeOf(path: string, params: Readonly<Record<string, string | readonly string[] | undefined>>): string {
  const names = new Map(Object.entries(params).flatMap(([name, value]) => (typeof value === 'string' ? [[value, name] as const] : [])));
  return path
    .split('/')
    .map((part) => (names.has(decoded(part)) ? `{${names.get(decoded(part))!}}` : part))
    .join('/');
}

function decoded(part: string): string {
  try {
    return decodeURIComponent(part);
  } catch {
    return part;
  }
}

/** Answers a request, its time and its way through the database noted under its route. */
export async function watched({ method }: Request, route: string, answer: () => Promise<Response>): Promise<Response> {
  const { requests, traces, log: logger } = watch();
  const began = performance.now();
  const trace: Trace = { queries: [] };
  const response = await traces.run(trace, answer);
  const ms = performance.now() - began;
  const { status } = response;
  requests.observe({ method, route, status: String(status) }, ms / 1000);
  logger.debug({ method, route, status, ms: Math.round(ms) }, 'request');
  const slow = slowFrom();
  if (slow !== null && ms >= slow)
    logger.warn(
      {
        method,
        route,
        status,
        ms: Math.round(ms),
        queries: trace.queries.length,
        database_ms: Math.round(trace.queries.reduce((n, q) => n + q.ms, 0)),
        slowest: [...trace.queries]
          .sort((a, b) => b.ms - a.ms)
          .slice(0, QUERIES_TOLD)
          .map((q) => ({ ms: Math.round(q.ms), sql: q.sql.slice(0, SQL_TOLD) })),
      },
      'slow request',
    );
  return response;
}

/** What there is to measure, in the Prometheus text format: of all processes behind the address, not only of the one that is asked; null: one of them is beginning. */
export async function metricsText(): Promise<{ readonly text: string; readonly type: string } | null> {
  const { registry } = watch();
  const text = hasSiblings() ? await measuresOfAll() : await registry.metrics();
  return text === null ? null : { text, type: registry.contentType };
}
