import { AsyncLocalStorage } from 'node:async_hooks';
import pino from 'pino';

const requests = new AsyncLocalStorage<string>();

/** The server's log, on standard error so that standard output stays for people. What belongs to a request has its id. */
export const log = pino(
  {
    level: process.env.LOG_LEVEL ?? 'warn',
    mixin: () => {
      const request = requests.getStore();
      return request === undefined ? {} : { request };
    }
  },
  pino.destination(2)
);

/** Does what belongs to one request. */
export const forRequest = <T>(id: string, work: () => T): T => requests.run(id, work);

/** The id of the request that is being answered. */
export const requestId = (): string | undefined => requests.getStore();

/** Requests that take longer are written down. */
const SLOW_REQUEST_MS = 2000;
/** The same for a query. */
const SLOW_QUERY_MS = 500;
const MOST_OF_A_QUERY = 200;

/** Writes a request down if it was slow. @param ms how long it took to its answer */
export function notedRequest(method: string, path: string, ms: number): void {
  if (ms >= SLOW_REQUEST_MS) log.warn({ method, path, ms: Math.round(ms) }, 'A slow request');
}

/** Writes a query down if it was slow, without the values in it. */
export function notedQuery(sql: string, ms = 0): void {
  if (ms < SLOW_QUERY_MS) return;
  const bare = sql.replace(/'(?:[^'\\]|\\.)*'/g, '?').slice(0, MOST_OF_A_QUERY);
  log.warn({ query: bare, ms }, 'A slow query');
}
