import {
  bushSettingsSchema,
  deriveTree,
  treeLine,
  treeRow,
  treeSchema,
  type AnyRecord,
  type BushRecord,
  type KeptLine,
  type Role,
  type WorkRecord
} from '@baumkin/core/records';

import type { Changes } from '../../src/lib/client/deviceBook.ts';
import type { KeptOverview } from '../../src/lib/client/overview.ts';
import { known, lives } from '../demoBush.ts';

/** How the server behaves at a request: as it should, or in one of the ways in which servers and networks fail. */
export type Mood = 'well' | 'away' | 'lostAnswer' | 'broken' | 'signedOut' | 'throttled' | 'proxyPage' | 'noMember';

const TREES = 12;
export const BUSH = '4f9c2f7e-7f2f-4d43-9c4e-0d7a3c6f1a01';
export const trees = known.slice(0, TREES).map(({ row }) => row);

/** A server in memory, with the parts of the interface that a device asks for; its mood can be changed at any time. */
export class FailingServer {
  mood: Mood = 'well';
  /** moods of the next requests that bring records, before `mood` holds again */
  next: Mood[] = [];
  member = { id: 'a1f9c2f7-7f2f-4d43-9c4e-0d7a3c6f1b02', name: 'Hedda' };
  role: Role = 'steward';
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
    if (mood === 'noMember') return json(404, { message: 'There is no such bush, or you are not a member of it.' });
    if (mood === 'broken') return json(500, { message: 'Something broke on the server.' });
    if (mood === 'proxyPage') return new Response('<html><h1>Bad gateway</h1></html>', { status: 502 });
    const answer =
      path === '/records'
        ? this.#take(((await request.json()) as { records: AnyRecord[] }).records)
        : this.#tell(path, new URL(request.url).searchParams);
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

  /** another one where whoever follows has to begin anew */
  feed = '5f9c2f7e-7f2f-4d43-9c4e-0d7a3c6f1a05';
  /** number of the change after which this feed begins: what came before is in the snapshot alone */
  begins = 0;
  today = '2026-11-23';
  season = 2027;
  /** what changed of the bush beside its records, by number */
  readonly others = new Map<number, Partial<Changes>>();
  /** addresses that were asked for */
  readonly asked: string[] = [];

  get #last(): number {
    return this.stored.length + this.others.size;
  }
  #snapshot = { feed: this.feed, number: 0, parts: 4, ready: 4, trees: TREES };
  /** Makes a snapshot of what there is now. */
  makeSnapshot(parts = 4, ready = parts): void {
    this.#snapshot = { feed: this.feed, number: this.#last, parts, ready, trees: TREES };
  }

  #part(part: number): Response {
    const { parts, ready } = this.#snapshot;
    if (part >= ready) return json(404, { message: 'There is no such part of a snapshot, or none yet.' });
    const each = Math.ceil(trees.length / (parts - 1));
    const here = trees.slice((part - 1) * each, part * each);
    return json(200, { lives: here.map((row) => ({ ...registered(row), records: this.#life(row.id) })) });
  }

  #changes(query: URLSearchParams): Response {
    const after = Number(query.get('after'));
    if (query.get('feed') !== this.feed || after > this.#last || after < this.begins)
      return json(410, { message: 'Begin anew.' });
    const news = this.stored.slice(after);
    const records = news.filter((record): record is WorkRecord => 'treeId' in record);
    const born = this.glance().trees.filter(({ id }) =>
      records.some(({ kind, treeId }) => kind === 'entry' && treeId === id)
    );
    return json(200, {
      role: this.role,
      memberId: this.member.id,
      today: this.today,
      season: this.season,
      feed: this.feed,
      to: this.#last,
      last: this.#last,
      trees: born.map(registered),
      records,
      bushRecords: news.filter((record): record is BushRecord => !('treeId' in record)),
      stands: [],
      features: [],
      walk: null,
      bush: null,
      people: null,
      ...Object.assign({}, ...[...this.others].flatMap(([number, other]) => (number > after ? [other] : [])))
    } satisfies Changes);
  }

  #tell(path: string, query: URLSearchParams): Response {
    this.asked.push(path);
    if (path === '/lines') return json(200, this.glance());
    if (path === '/snapshot') return json(200, this.#snapshot);
    if (path.startsWith('/snapshot/')) return this.#part(Number(path.split('/')[3]));
    if (path === '/changes') return this.#changes(query);
    if (path.startsWith('/trees/')) return json(200, { records: this.#life(path.slice('/trees/'.length)) });
    return json(404, { message: 'There is no such page.' });
  }

  #life(treeId: string): WorkRecord[] {
    const here = this.stored.filter((record): record is WorkRecord => 'treeId' in record && record.treeId === treeId);
    return [...(lives.get(treeId) ?? []), ...here];
  }

  glance(): KeptOverview {
    const { today, season } = this;
    const all = [...trees];
    for (const record of this.stored) {
      if (record.kind !== 'entry' || all.some(({ id }) => id === record.treeId)) continue;
      const records = this.#life(record.treeId);
      const row = treeRow(treeLine(record.treeId, 0, records)!, deriveTree(records, { today, season }));
      all.splice(all.findIndex(({ id }) => id === record.afterId) + 1 || all.length, 0, row);
    }
    return {
      bush: {
        id: BUSH,
        name: 'Corran Hill',
        role: this.role,
        settings: bushSettingsSchema.parse({}),
        version: 1,
        origin: null
      },
      member: this.member,
      today,
      season,
      stands: [],
      features: [],
      damaged: [],
      people: [],
      baseMap: null,
      bushRecords: this.stored.filter((record): record is BushRecord => !('treeId' in record)),
      trees: all.map((row, walkOrder) => ({ ...row, walkOrder })),
      feed: this.feed,
      number: this.#last
    };
  }
}

/** A tree as the registry has it. */
const registered = (row: KeptLine) => ({ id: row.id, walkOrder: row.walkOrder, tree: treeSchema.parse(row) });

const json = (status: number, body: unknown) => Response.json(body, { status });
