import { closingDue } from '@baumkin/core/bush';
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

  /** Does a tree wait at a station? @param closing the trees whose closing holes are looked at now */
  isAt(station: Station, row: TreeRow, closing: ReadonlySet<string>): boolean {
    return this.at(row).includes(station) || (station === 'season' && this.#closes(row, closing));
  }

  /** How many trees wait at each station. @param closing the trees whose closing holes are looked at now */
  count(rows: readonly TreeRow[], closing: ReadonlySet<string>): Record<Station, number> {
    const counts = Object.fromEntries(STATIONS.map((station) => [station, 0])) as Record<Station, number>;
    for (const row of rows) {
      const stations = this.at(row);
      for (const station of stations) counts[station] += 1;
      if (!stations.includes('season') && this.#closes(row, closing)) counts.season += 1;
    }
    return counts;
  }

  readonly #closes = (row: TreeRow, closing: ReadonlySet<string>) => closing.has(row.id) && closingDue(row, this.today);
}
