import { isOutstanding, STATIONS, type Stand, type Station, type TreeRow } from '@baumkin/core/records';

/** Where trees wait on a day. A line that is the same waits where it did: of 20,000, those that changed are looked at. */
export class Waiting {
  readonly #known = new WeakMap<TreeRow, readonly Station[]>();
  readonly #stands: ReadonlyMap<string, Stand>;

  constructor(
    readonly today: string,
    stands: readonly Stand[]
  ) {
    this.#stands = new Map(stands.map((stand) => [stand.id, stand]));
  }

  /** The stand of a tree; null where it has none. */
  standOf({ standId }: TreeRow): Stand | null {
    return standId === null ? null : (this.#stands.get(standId) ?? null);
  }

  /** The stations at which a tree waits. */
  at(row: TreeRow): readonly Station[] {
    const known = this.#known.get(row);
    if (known) return known;
    const stand = this.standOf(row);
    const found = STATIONS.filter((station) => isOutstanding(station, row, this.today, stand));
    this.#known.set(row, found);
    return found;
  }

  /** How many trees wait at each station. */
  count(rows: readonly TreeRow[]): Record<Station, number> {
    const counts = Object.fromEntries(STATIONS.map((station) => [station, 0])) as Record<Station, number>;
    for (const row of rows) for (const station of this.at(row)) counts[station] += 1;
    return counts;
  }
}
