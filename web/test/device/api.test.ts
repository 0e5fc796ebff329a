import { afterEach, describe, expect, it, vi } from 'vitest';

/* The one client of the interface: what it asks, and what comes of every way in which a server can fail. */

const fetched: Request[] = [];
let answer: () => Promise<Response> = () => Promise.reject(new TypeError('Failed to fetch'));
vi.stubGlobal('fetch', (request: Request) => {
  fetched.push(request);
  return answer();
});
const { api, asked } = await import('../../src/lib/client/api.ts');
afterEach(() => void fetched.splice(0));
const says = (status: number, body: unknown) => () => Promise.resolve(Response.json(body, { status }));
const BUSH = 'a b/c';

describe('what is asked', () => {
  it('goes to its address, with names that are no part of a path and a body that is JSON', async () => {
    answer = says(200, { version: 7 });
    await asked(
      api.PATCH('/bushes/{bush}/settings', {
        params: { path: { bush: BUSH } },
        body: { version: 6, settings: { snowMm: 300 } }
      })
    );
    const [request] = fetched;
    expect([request!.method, new URL(request!.url).pathname]).toEqual(['PATCH', '/api/v1/bushes/a%20b%2Fc/settings']);
    expect(request!.headers.get('content-type')).toBe('application/json');
    expect(await request!.json()).toEqual({ version: 6, settings: { snowMm: 300 } });
  });

  it('what takes no body sends none', async () => {
    answer = says(200, { members: [] });
    await asked(api.GET('/bushes/{bush}/members', { params: { path: { bush: BUSH } } }));
    expect([fetched[0]!.method, fetched[0]!.body]).toEqual(['GET', null]);
  });
});

describe('what does not fit', () => {
  it('does not compile: an address, a method, a name in a path, a body', () => {
    const params = { path: { bush: BUSH } };
    // Never called: the compiler alone is asked.
    const wrong = () => [
      // @ts-expect-error there is no such address
      api.GET('/bushes/{bush}/secrets', { params }),
      // @ts-expect-error events are not put
      api.PUT('/bushes/{bush}/events', { params }),
      // @ts-expect-error the tree is not named
      api.GET('/bushes/{bush}/trees/{tree}', { params }),
      // @ts-expect-error snow is a number
      api.PATCH('/bushes/{bush}/settings', { params, body: { version: 1, settings: { snowMm: 'deep' } } }),
      // @ts-expect-error a walk has an order
      api.PUT('/bushes/{bush}/walk', { params, body: {} })
    ];
    expect(wrong).toBeTypeOf('function');
  });
});

describe('what comes of it', () => {
  const ask = () => asked(api.GET('/tokens', {}));

  it('the answer', async () => {
    answer = says(200, { tokens: [] });
    expect(await ask()).toEqual({ data: { tokens: [] }, problem: null });
  });

  it('nothing, where there is nothing to say', async () => {
    answer = () => Promise.resolve(new Response(null, { status: 204 }));
    expect(await asked(api.DELETE('/tokens/{token}', { params: { path: { token: 'x' } } }))).toMatchObject({
      problem: null
    });
  });

  it.each([
    [400, { message: 'settings.snowMm: Too big' }, 'settings.snowMm: Too big'],
    [
      403,
      { message: 'That needs the steward’s role; yours is crew.' },
      'That needs the steward’s role; yours is crew.'
    ],
    [500, {}, 'The server did not answer as it should. Look whether it was done before you try again.']
  ])('the sentence of a refusal with status %d', async (status, body, problem) => {
    answer = says(status, body);
    expect(await ask()).toEqual({ data: null, problem, status });
  });

  it('a page of a proxy in between is no answer, and shows nobody its code', async () => {
    answer = () => Promise.resolve(new Response('<h1>502 Bad Gateway</h1>', { status: 502 }));
    expect(await ask()).toEqual({
      data: null,
      problem: 'The server did not answer as it should. Look whether it was done before you try again.',
      status: 502
    });
    // Whoever asks says it better, where something else is at stake.
    expect(await asked(api.GET('/tokens', {}), 'Your keys are as they were.')).toMatchObject({
      problem: 'Your keys are as they were.'
    });
  });

  it('nobody answers: no status, and no exception', async () => {
    answer = () => Promise.reject(new TypeError('Failed to fetch'));
    expect(await ask()).toEqual({ data: null, problem: 'The server cannot be reached.', status: null });
  });
});
