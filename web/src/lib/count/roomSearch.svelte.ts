import { FIRST, placementOf } from '@baumkin/core/bush';
import { userFacing } from '@baumkin/core/errors';
import type { RecordKindName, TreeRow, WorkRecord } from '@baumkin/core/records';
import { CLEAR_ENOUGH } from '@baumkin/core/rotation';

import type { BushState } from '$lib/client/bush.svelte.ts';
import { keeping, store } from '$lib/client/store.ts';
import type { PlaceWorker } from '$lib/workers/place.worker.ts';
import { PooledRun } from '$lib/workers/pooledRun.svelte.ts';

/** Holes that room is looked for. */
const WANTED = 4;
/** Kinds whose records tell how much clear wood a trunk has: what was found holds until there is another of them. */
const OF_WOOD: ReadonlySet<RecordKindName> = new Set([
  'reading',
  'taphole',
  'scars',
  'tappedBefore',
  'shavings',
  'trunkFeature',
  'assessment',
  'determination'
]);

/** Names what is known of a trunk's wood: records are added and never changed. */
export function woodStamp(records: readonly WorkRecord[]): string {
  const ids = records.filter(({ kind }) => OF_WOOD.has(kind)).map(({ id }) => id);
  return `${ids.length} ${ids.sort().at(-1) ?? ''}`;
}

/** How many clear places a trunk has, and of which wood that was found. */
interface Found {
  readonly stamp: string;
  readonly room: number;
}

/** The clear places of every trunk of a bush, looked for by several workers, and kept on this device. */
export class RoomSearch {
  /** clear places by tree; brought up to date every few seconds: the lists that read it are long */
  rooms = $state.raw<ReadonlyMap<string, number>>(new Map());
  readonly run = new PooledRun<PlaceWorker>(
    () => new Worker(new URL('../workers/place.worker.ts', import.meta.url), { type: 'module' }),
    () => this.#keep()
  );
  readonly #found = new Map<string, Found>();
  readonly #bush: BushState;

  constructor(bush: BushState) {
    this.#bush = bush;
  }

  /** Brings what was found before, as far as it still holds. */
  async open(): Promise<void> {
    const kept = await store.searches.get(this.#key);
    if (kept?.question !== this.#question) return;
    const known = new Map(kept.found as [string, Found][]);
    for await (const { tree, records } of this.#lives(this.#bush.rows.filter(({ id }) => known.has(id)))) {
      const before = known.get(tree.id)!;
      if (before.stamp === woodStamp(records)) this.#found.set(tree.id, before);
    }
    this.#show();
  }

  /** Looks for room on these trees. What holds still is not looked for again. */
  async look(rows: readonly TreeRow[]): Promise<void> {
    const { season } = this.#bush;
    await this.run.run(this.#lives(rows), rows.length, async (remote, { tree, records }) => {
      const stamp = woodStamp(records);
      if (this.#found.get(tree.id)?.stamp === stamp) return;
      const state = this.#bush.stateFrom(records);
      const settings = this.#bush.settingsAt(tree.id);
      const placing = placementOf(state, { treeId: tree.id, settings, season, wanted: WANTED });
      if (!placing) return;
      const { proposals } = await remote.place({ ...placing.task, ...FIRST });
      const clear = proposals.filter(({ outlook }) => outlook.pClear >= CLEAR_ENOUGH).length;
      this.#found.set(tree.id, { stamp, room: state.holesThisSeason.length + clear });
    });
  }

  /** Where not all of the bush is on this device yet, the page says so. */
  async *#lives(rows: readonly TreeRow[]) {
    try {
      yield* this.#bush.lives(rows);
    } catch (error) {
      if (!userFacing(error)) throw error;
    }
  }

  get #key(): string {
    return `rooms/${this.#bush.id}/${this.#bush.season}`;
  }

  /** All that an answer follows from beside the tree's own records. */
  get #question(): string {
    return `${CORE} ${JSON.stringify(this.#bush.overview!.bush.settings)}`;
  }

  #show(): void {
    this.rooms = new Map([...this.#found].map(([id, { room }]) => [id, room]));
  }

  async #keep(): Promise<void> {
    this.#show();
    const kept = { key: this.#key, bushId: this.#bush.id, question: this.#question, found: [...this.#found] };
    await keeping([store.searches], () => store.searches.put(kept));
  }
}
