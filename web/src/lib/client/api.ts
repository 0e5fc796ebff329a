import createClient from 'openapi-fetch';

import type { ApiPaths } from '../server/contract.ts';

/** One operation of the interface. */
interface Operation {
  readonly names: string;
  readonly asks: unknown;
  readonly takes: unknown;
  readonly gives: unknown;
}
type AsksOf<Of> = Of extends Operation
  ? ([Of['names']] extends [never]
      ? object
      : {
          readonly params: { readonly path: Readonly<Record<Of['names'], string>> } & (undefined extends Of['asks']
            ? object
            : { readonly query: Of['asks'] });
        }) &
      (undefined extends Of['takes'] ? object : { readonly body: Of['takes'] })
  : never;
type GivesOf<Of> = Of extends Operation ? Of['gives'] : never;
type Ask<Method extends string> = <Path extends keyof ApiPaths>(
  path: Path,
  asks: AsksOf<ApiPaths[Path][Method & keyof ApiPaths[Path]]>
) => Promise<{
  readonly data?: GivesOf<ApiPaths[Path][Method & keyof ApiPaths[Path]]>;
  readonly error?: unknown;
  readonly response: Response;
}>;

/** The server's interface, typed by the table that its routes and its description are made from. */
export const api = createClient({ baseUrl: '/api/v1' }) as unknown as {
  readonly GET: Ask<'get'>;
  readonly POST: Ask<'post'>;
  readonly PUT: Ask<'put'>;
  readonly PATCH: Ask<'patch'>;
  readonly DELETE: Ask<'delete'>;
};

/** Said of records that the server did not take: they wait in the outbox. */
export const KEPT_HERE = 'The server did not answer as it should. What you wrote is kept on this device.';

/** What came of asking the server. */
export type Asked<T> =
  | { readonly data: T; readonly problem: null }
  /** `status` is null where nobody answered; the problem is a sentence for people */
  | { readonly data: null; readonly problem: string; readonly status: number | null };

/**
 * Waits for an answer; neither a refusal nor a missing network is an exception.
 * @param otherwise said where the server answers without a sentence, as a proxy in between does
 */
export async function asked<T>(
  call: Promise<{ readonly data?: T; readonly error?: unknown; readonly response: Response }>,
  otherwise = 'The server did not answer as it should. Look whether it was done before you try again.'
): Promise<Asked<T>> {
  try {
    const { data, error, response } = await call;
    if (response.ok) return { data: data as T, problem: null };
    const { message = otherwise } = error !== null && typeof error === 'object' ? (error as { message?: string }) : {};
    return { data: null, problem: message, status: response.status };
  } catch {
    return { data: null, problem: 'The server cannot be reached.', status: null };
  }
}
