import {
  bushSettingsSchema,
  deriveTree,
  treeLine,
  treeRow,
  type AnyRecord,
  type WorkRecord
} from '@baumkin/core/records';

import type { Overview } from '../../src/lib/client/overview.ts';
import { known, lives } from '../demoBush.ts';

/** How the server behaves at a request: as it should, or in one of the ways in which servers and networks fail. */
export type Mood = 'well' | 'away' | 'lostAnswer' | 'broken' | 'signedOut' | 'throttled' | 'proxyPage';

const TREES = 12;
export const BUSH = '4f9c2f7e-7f2f-4d43-9c4e-0d7a3c6f1a01';
export const trees = known.slice(0, TREES).map(({ row }) => row);

/** A server in memory, with the parts of the interface that a device asks for; its mood can be changed at any time. */
export class FailingServer {
  mood: Mood = 'well';
  /** moods of the next requests that bring records, before `mood` holds again */
  next: Mood[] = [];
  member = { id: 'a1f9c2f7-7f2f-4d43-9c4e-0d7a3c6f1b02', name: 'Hedda' };
  /** larger batches are not taken */
  mostRecords = 500;
  /** it breaks whenever one of these is among the records */
  readonly poison = new Set<string>();
  /** it refuses these, each with its reason */
  readonly refuses = new Map<string, string>();
  readonly stored: AnyRecord[] = [];

  readonly fetch = async (input: Request | string | URL): Promise<Response> => {
    const request = input instanceof Request ? input : new Request(input);
    const path = new URL(request.url).pathname.replace(`/api/v1/bushes/${BUSH}`, '');
    const mood = (path === '/records' ? this.next.shift() : undefined) ?? this.mood;
    if (mood === 'away') throw new TypeError('Failed to fetch');
    if (mood === 'signedOut') return json(401, { message: 'Sign in first.' });
    if (mood === 'throttled') return json(429, { message: 'Too many requests; wait a minute.' });
    if (mood === 'broken') return json(500, { message: 'Something broke on the server.' });
    if (mood === 'proxyPage') return new Response('<html><h1>Bad gateway</h1></html>', { status: 502 });
    const answer =
      path === '/records' ? this.#take(((await request.json()) as { records: AnyRecord[] }).records) : this.#tell(path);
    if (mood === 'lostAnswer') throw new TypeError('Failed to fetch');
    return answer;
  };

  #take(records: readonly AnyRecord[]): Response {
    if (records.length > this.mostRecords) return json(413, { message: 'That is too much at once.' });
    if (records.some(({ id }) => this.poison.has(id))) return json(500, { message: 'Something broke on the server.' });
    const outcomes = records.map((record) => {
      const reason = this.refuses.get(record.id);
      if (reason !== undefined) return { id: record.id, status: 'refused', reason };
      if (this.stored.some(({ id }) => id === record.id)) return { id: record.id, status: 'already' };
      this.stored.push(record);
      return { id: record.id, status: 'stored' };
    });
    return json(200, { outcomes });
  }

  #tell(path: string): Response {
    if (path === '') return json(200, this.overview());
    if (path === '/pack') return json(200, { lives: trees.map(({ id }) => ({ treeId: id, records: this.#life(id) })) });
    if (path.startsWith('/trees/')) return json(200, { records: this.#life(path.slice('/trees/'.length)) });
    return json(404, { message: 'There is no such page.' });
  }

  #life(treeId: string): WorkRecord[] {
    const here = this.stored.filter((record): record is WorkRecord => 'treeId' in record && record.treeId === treeId);
    return [...(lives.get(treeId) ?? []), ...here];
  }

  overview(): Overview {
    const [today, season] = ['2026-11-23', 2027];
    const all = [...trees];
    for (const record of this.stored) {
      if (record.kind !== 'entry' || all.some(({ id }) => id === record.treeId)) continue;
      const records = this.#life(record.treeId);
      const row = treeRow(treeLine(record.treeId, 0, records)!, deriveTree(records, { today, season }));
      all.splice(all.findIndex(({ id }) => id === record.afterId) + 1 || all.length, 0, row);
    }
    return {
      bush: { id: BUSH, name: 'Corran Hill', role: 'steward', settings: bushSettingsSchema.parse({}), version: 1 },
      member: this.member,
      today,
      season,
      stands: [],
      features: [],
      trees: all
    };
  }
}

const json = (status: number, body: unknown) => Response.json(body, { status });
