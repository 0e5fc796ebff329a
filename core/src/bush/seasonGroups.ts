import type { SpeciesId } from '../identify/index.ts';
import { otherSapOfTree, tapsToHang, type Stand, type TreeRow } from '../records/index.ts';
import { budNeedOf, type TapGroup } from '../season/index.ts';

/** Species whose buds swell early have an early season, the others a late one. */
export type SwellGroup = 'early' | 'late';

/** Does a species swell early? What is open counts as late, as the sugar maple does. */
export const swells = (species: SpeciesId | null): SwellGroup =>
  budNeedOf(species).degreeDays < budNeedOf(null).degreeDays ? 'early' : 'late';

/** Tapped trees that run alike: by when their buds swell and by the sun on their trunks. */
export interface SeasonGroup extends TapGroup {
  readonly id: `${SwellGroup}${'Sunny' | ''}`;
  readonly swell: SwellGroup;
  readonly treeIds: readonly string[];
  readonly standIds: readonly string[];
  /** taps decided for the season and drilled so far */
  readonly taps: number;
  readonly drilled: number;
}

/** The groups of the maples that are tapped in the season, those with most taps first. @param today ISO date */
export function seasonGroups(rows: readonly TreeRow[], stands: readonly Stand[], today: string): SeasonGroup[] {
  const byId = new Map(stands.map((stand) => [stand.id, stand]));
  const groups = new Map<
    string,
    { group: SeasonGroup; treeIds: string[]; standIds: Set<string>; taps: number; drilled: number }
  >();
  for (const row of rows) {
    const stand = row.standId === null ? null : (byId.get(row.standId) ?? null);
    const taps = Math.max(row.drilled, tapsToHang(row, stand, today));
    // Birches and walnuts have a season of their own.
    if (row.cut || taps === 0 || otherSapOfTree(row) !== null) continue;
    const swell = swells(row.species);
    const sunny = stand?.sun === 'sunny';
    const id = `${swell}${sunny ? 'Sunny' : ''}` as const;
    const known = groups.get(id) ?? {
      group: {
        id,
        swell,
        species: swell === 'early' ? 'redMaple' : 'sugarMaple',
        sunny,
        treeIds: [],
        standIds: [],
        taps: 0,
        drilled: 0
      },
      treeIds: [],
      standIds: new Set<string>(),
      taps: 0,
      drilled: 0
    };
    known.treeIds.push(row.id);
    if (row.standId !== null) known.standIds.add(row.standId);
    known.taps += taps;
    known.drilled += row.drilled;
    groups.set(id, known);
  }
  return [...groups.values()]
    .map(({ group, treeIds, standIds, taps, drilled }) => ({
      ...group,
      treeIds,
      standIds: [...standIds],
      taps,
      drilled
    }))
    .sort((a, b) => b.taps - a.taps);
}
