import { AsyncLocalStorage } from 'node:async_hooks';
import pino from 'pino';

const requests = new AsyncLocalStorage<string>();

const MOST_OF_A_QUERY = 200;
/** A query without the values in it. */
const bareQuery = (sql: string) => sql.replace(/'(?:[^'\\]|\\.)*'?|\b\d+(?:\.\d+)?\b/g, '?').slice(0, MOST_OF_A_QUERY);

/** What a database's refusal carries; its text repeats the query with all values, and `Duplicate entry` the value itself. */
interface DatabaseError extends Error {
  readonly sql?: unknown;
  readonly parent?: { readonly code?: unknown; readonly errno?: unknown; readonly sqlState?: unknown };
}

/**
 * What the log keeps of an error: what it was and where it came from. Of what a database refused neither the values nor the text
 * that holds them; hashes of passwords are among them, and what people wrote.
 */
export function errorNote(error: unknown): object {
  if (!(error instanceof Error)) return { type: typeof error };
  const { name, parent, sql } = error as DatabaseError;
  const frames = error.stack?.match(/^ {4}at .*$/gm)?.map((frame) => frame.trim()) ?? [];
  if (name.startsWith('Sequelize') || parent || sql !== undefined || 'sqlState' in error) {
    const { code, errno, sqlState } = parent ?? (error as NonNullable<DatabaseError['parent']>);
    return { type: name, code, errno, sqlState, ...(typeof sql === 'string' && { query: bareQuery(sql) }), frames };
  }
  const { cause } = error;
  return { type: name, message: error.message, ...(cause !== undefined && { cause: errorNote(cause) }), frames };
}

/** The server's log, on standard error so that standard output stays for people. What belongs to a request has its id. */
export const log = pino(
  {
    level: process.env.LOG_LEVEL ?? 'warn',
    serializers: { err: errorNote },
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

/** Writes a request down if it was slow. @param ms how long it took to its answer */
export function notedRequest(method: string, path: string, ms: number): void {
  if (ms >= SLOW_REQUEST_MS) log.warn({ method, path, ms: Math.round(ms) }, 'A slow request');
}

/** Writes a query down if it was slow, without the values in it. */
export function notedQuery(sql: string, ms = 0): void {
  if (ms < SLOW_QUERY_MS) return;
  log.warn({ query: bareQuery(sql), ms }, 'A slow query');
}
