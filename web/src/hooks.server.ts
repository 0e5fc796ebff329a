import { randomUUID } from 'node:crypto';
import { error, json, redirect, type Handle, type HandleServerError, type ServerInit } from '@sveltejs/kit';

import { isHalfRestored, missingColumns, pendingMigrations, tables } from '$lib/server/db/index.ts';
import { forRequest, log, notedRequest, requestId } from '$lib/server/log.ts';
import { SESSION_COOKIE } from '$lib/server/sessionCookie.ts';
import { clearUpNowAndThen } from '$lib/server/clearUp.ts';
import { sessionOf } from '$lib/server/sessions.ts';
import { memberByToken } from '$lib/server/tokens.ts';

export const init: ServerInit = async () => {
  // Without this the idle connections would hold the process for a while after it was asked to stop.
  process.once('sveltekit:shutdown', () => void tables().sequelize.close());
  // What nobody caught would be printed by Node with all that it carries.
  process.once('uncaughtException', (err) => {
    log.fatal({ err }, 'The server breaks off');
    process.exit(1);
  });
  if (await isHalfRestored(tables().sequelize))
    throw new Error('Reading a backup into this database was cut off: what is in it is half of something.');
  const pending = await pendingMigrations(tables().sequelize);
  if (pending.length > 0)
    throw new Error(`The database is behind: ${pending.join(', ')}. Run "node build-cli/cli.js migrate".`);
  const missing = await missingColumns(tables().sequelize);
  if (missing.length > 0)
    throw new Error(`The database lacks ${missing.join(', ')}. It was made by another version; nothing was changed.`);
  clearUpNowAndThen();
};

/** The empty page of all bushes, which devices keep: it says nothing of any. */
const SHELL = '/bush/shell';
/** What any door but that of archives takes at most. */
const MOST_BYTES = 64_000_000;
/** Pages of links that are secrets: whoever has one may see its page. */
const SECRETS = ['/join/', '/link/'];
const secretOf = (path: string) => SECRETS.find((page) => path.startsWith(page));
/** Pages that anybody may see. */
const OPEN = ['/sign-in', '/sign-up', '/look-around', SHELL, '/health', '/ready'];
/** The pages that a bush’s stewards have opened to visitors; the others are not there. */
const VISITORS = '/visit/';
const isOpen = (path: string) => OPEN.includes(path) || secretOf(path) !== undefined || path.startsWith(VISITORS);

const withoutSecrets = (path: string) => {
  const page = secretOf(path);
  return page === undefined ? path : `${page}…`;
};

/** What the interface is, and what an archive is made of: no secrets. */
const DESCRIPTIONS = ['/api/v1/openapi.json', '/api/v1/archive.schema.json'];

export const handle: Handle = (input) => {
  const begun = performance.now();
  const { request, url } = input.event;
  return forRequest(randomUUID(), async () => {
    try {
      const response = await handled(input);
      for (const [name, value] of Object.entries(HEADERS)) response.headers.set(name, value);
      if (!response.headers.has('cache-control')) response.headers.set('cache-control', 'private, no-store');
      return response;
    } finally {
      notedRequest(request.method, withoutSecrets(url.pathname), performance.now() - begun);
    }
  });
};

/** A route as the description of the interface writes its address. */
const asDescribed = (route: string) => route.replace(/^\/api\/v1/, '').replace(/\[(\w+)\]/g, '{$1}');

const isSafe = (method: string) => method === 'GET' || method === 'HEAD' || method === 'OPTIONS';
/** Was this sent by a page of another site? Browsers say so; programs that are none say nothing. */
function comesFromElsewhere(request: Request, url: URL): boolean {
  const origin = request.headers.get('origin');
  return origin === null ? request.headers.get('sec-fetch-site') === 'cross-site' : origin !== url.origin;
}

/**
 * Of every answer; besides, nobody on the way keeps one unless its route says otherwise. What a page may use of the device: where it
 * stands, and the camera for a tag or a photograph.
 */
const HEADERS: Readonly<Record<string, string>> = {
  'x-content-type-options': 'nosniff',
  'referrer-policy': 'same-origin',
  'cross-origin-opener-policy': 'same-origin',
  'cross-origin-resource-policy': 'same-origin',
  'permissions-policy':
    'geolocation=(self), camera=(self), microphone=(), payment=(), usb=(), midi=(), display-capture=(), browsing-topics=()'
};

const handled: Handle = async ({ event, resolve }) => {
  const { url, request, cookies } = event;
  const token = cookies.get(SESSION_COOKIE);
  const known = token ? await sessionOf(token) : null;
  event.locals.member = known?.member ?? null;
  event.locals.session = known?.session ?? null;

  // The framework's own check looks at forms only, and not at requests without a body: a foreign page could end a session.
  if (!isSafe(request.method) && comesFromElsewhere(request, url))
    return json({ message: 'This request comes from another site.' }, { status: 403 });

  // Archives are as long as the bush is old; whatever else is read has bounds of its own, or those of a form.
  if (request.body && !url.pathname.endsWith('/archive')) {
    const bytes = Number(request.headers.get('content-length') ?? (url.pathname.startsWith('/api/') ? 0 : NaN));
    if (!(bytes <= MOST_BYTES)) error(413, 'That is more than is taken here at once.');
  }
  if (url.pathname.startsWith('/api/')) {
    event.locals.asks = `${request.method.toLowerCase()} ${asDescribed(event.route.id ?? '')}`;
    const bearer = /^Bearer (\S+)$/.exec(request.headers.get('authorization') ?? '')?.[1];
    if (bearer !== undefined) {
      const program = await memberByToken(bearer);
      event.locals.member = program?.member ?? null;
      event.locals.session = null;
      event.locals.byToken = true;
      if (program && !program.mayWrite && request.method !== 'GET')
        return json({ message: 'This key only reads.' }, { status: 403 });
    }
    if (!event.locals.member && !DESCRIPTIONS.includes(url.pathname))
      return json({ message: 'Sign in first.' }, { status: 401 });
  } else if (!event.locals.member && event.route.id !== null && !isOpen(url.pathname)) {
    redirect(303, `/sign-in?to=${encodeURIComponent(url.pathname + url.search)}`);
  }
  return resolve(event);
};

export const handleError: HandleServerError = ({ error, event, status, message }) => {
  if (status === 404) return { message: 'There is nothing at this address.' };
  const id = requestId() ?? randomUUID();
  log.error({ id, path: withoutSecrets(event.url.pathname), err: error }, message);
  return { message: 'Something went wrong here. Look whether it was kept before you try again.', id };
};
