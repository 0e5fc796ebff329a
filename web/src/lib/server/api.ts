import { promisify } from 'node:util';
import { pipeline, Readable } from 'node:stream';
import { createGzip, gunzip, gzip } from 'node:zlib';
import { error } from '@sveltejs/kit';
import { userFacing } from '@baumkin/core/errors';
import type { Role } from '@baumkin/core/records';

import type { z } from 'zod';

import { ROLE_SAYS } from '../labels/roles.ts';
import { notedRefusal } from './audit.ts';
import { bushFor, type BushAccess } from './bushes.ts';
import { saysOf } from './contract.ts';
import { dropBook } from './heldBooks.ts';
import { mayAsMuchAs } from './members.ts';
import { Refused, statusOf } from './refusals.ts';
import { fromOlder, MAX_BYTES, requests } from './requests.ts';

const gzipped = promisify<string, { level: number }, Buffer>(gzip);
/** Half the time of the thorough way, for a quarter more to send. */
const QUICK = 1;
const gunzipped = promisify(gunzip);

/**
 * The member's way into a bush for a route, or an answer of 404: who is not a member does not learn that it exists.
 * @param needed the role that the route asks for
 */
export async function requireBush(locals: App.Locals, bushId: string, needed: Role = 'viewer'): Promise<BushAccess> {
  const bush = locals.member && (await bushFor(locals.member.id, bushId));
  // This answer has a device drop what it holds of the bush.
  if (!bush && locals.session) await dropBook(bushId, locals.session.id);
  if (!bush) error(404, 'There is no such bush, or you are not a member of it.');
  const { asks = 'get' } = locals;
  if (bush.goneAt !== null && !asks.startsWith('get')) error(403, new Refused('atRest').message);
  if (!mayAsMuchAs(bush.role, needed)) {
    const by = { bushId: bush.id, authorId: locals.member!.id, at: new Date() };
    await notedRefusal(by, bush.role, saysOf(asks));
    error(
      403,
      `That is for ${needed === 'steward' ? 'stewards' : 'helpers and stewards'}; you are here as ${ROLE_SAYS[bush.role]}.`
    );
  }
  return bush;
}

/** The member herself, not a program with a key of hers: only people hand out keys, and say who belongs to a bush. */
export function requireUser(locals: App.Locals): NonNullable<App.Locals['member']> {
  if (!locals.member) error(401, 'Sign in first.');
  if (locals.byToken) error(403, 'That is for people to do, not for programs.');
  return locals.member;
}

/**
 * Reads a JSON body of limited size. A body that is too large is read to its end and thrown away, since a client that is
 * cut off while it still sends never sees the answer.
 * @throws 413 and 400 answers
 */
export async function readJson(request: Request, mostBytes: number): Promise<unknown> {
  const chunks: Uint8Array[] = [];
  let size = 0;
  for await (const chunk of request.body ?? []) {
    size += chunk.byteLength;
    if (size <= mostBytes) chunks.push(chunk);
    else chunks.length = 0;
  }
  if (size > mostBytes)
    error(413, `That is more than ${Math.round(mostBytes / 1_000_000)} MB. Split it into parts; nothing was changed.`);
  try {
    return JSON.parse(Buffer.concat(chunks).toString('utf8'));
  } catch {
    error(400, 'The request is not JSON.');
  }
}

/**
 * Reads and checks the body of a request.
 * @throws 413 and 400 answers that name what is wrong
 */
export async function readRequest<K extends keyof typeof requests>(
  kind: K,
  request: Request
): Promise<z.infer<(typeof requests)[K]>> {
  const body = await readJson(request, MAX_BYTES[kind]);
  const parsed = requests[kind].safeParse(fromOlder[kind]?.(body) ?? body);
  if (parsed.success) return parsed.data as z.infer<(typeof requests)[K]>;
  const { path, message } = parsed.error.issues[0]!;
  error(400, path.length > 0 ? `${path.join('.')}: ${message}` : message);
}

/** Does what was asked, and answers with what a person can be told where that was refused. */
export async function answering<T>(work: Promise<T>): Promise<T> {
  try {
    return await work;
  } catch (problem) {
    const told = userFacing(problem);
    const status = told && statusOf(told.code);
    if (told && status) error(status, told.message);
    throw problem;
  }
}

/** A large JSON answer, compressed for whoever takes it so: a bush's records shrink to a tenth. */
export async function packedJson(request: Request, value: unknown): Promise<Response> {
  const text = JSON.stringify(value);
  if (!takesGzip(request)) return new Response(text, { headers: JSON_HEADERS });
  return gzippedJson(new Uint8Array(await gzipped(text, { level: QUICK })));
}

/** The same of pieces that are JSON together: compressed and sent as they come, and never in memory as one. */
export function packedPieces(request: Request, pieces: Iterable<string>): Response {
  const source = Readable.from(pieces, { objectMode: false });
  if (!takesGzip(request)) return new Response(asBody(source), { headers: JSON_HEADERS });
  // Where whoever asked goes away, nothing is left to be done.
  return gzippedJson(asBody(pipeline(source, createGzip({ level: QUICK }), () => undefined)));
}
const asBody = (stream: Readable) => Readable.toWeb(stream) as ReadableStream<Uint8Array>;

/** A JSON answer that was compressed before. */
export async function packedAlready(request: Request, packed: Buffer): Promise<Response> {
  return takesGzip(request)
    ? gzippedJson(new Uint8Array(packed))
    : new Response(new Uint8Array(await gunzipped(packed)), { headers: JSON_HEADERS });
}

const JSON_HEADERS = { 'content-type': 'application/json', vary: 'accept-encoding' };
const takesGzip = (request: Request) => /\bgzip\b/.test(request.headers.get('accept-encoding') ?? '');
const gzippedJson = (packed: BodyInit) =>
  new Response(packed, { headers: { ...JSON_HEADERS, 'content-encoding': 'gzip' } });
