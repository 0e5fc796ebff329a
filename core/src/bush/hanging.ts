import { max, min } from 'd3-array';

import type { BushRecord, BushSettings, TreeState, TrunkFeature } from '../records/index.ts';
import { apart, DROP_SLACK_MM, outOfReach } from '../rotation/index.ts';
import { highestTapMm } from '../season/index.ts';
import { trunkToday } from '../trunk/index.ts';

/** What sap runs into limits a tree's taps. */
export interface Hanging {
  /** a tap is no higher than this, mm: its sap falls through a tube into a pail; null where nothing sets it */
  readonly highestMm: number | null;
  /** the longest tube by which the tree hangs on a line, mm; null where it hangs on none */
  readonly dropMm: number | null;
}

/** The bush's own numbers, as they hold at a tree. */
export interface TreeSettings extends BushSettings {
  /** the tube by which the tree hangs on its line, mm: not taken from the bush, but from the line */
  readonly ownDropMm?: number;
}

/** Where the taps of trees are limited by what their sap runs into, by tree. @param records of the bush that hold */
export function hangingOf(records: readonly BushRecord[]): ReadonlyMap<string, Hanging> {
  const limits = new Map<string, Hanging>();
  const limit = (treeId: string, { highestMm, dropMm }: Hanging) => {
    const known = limits.get(treeId);
    limits.set(treeId, {
      highestMm: min([known?.highestMm, highestMm], (each) => each) ?? null,
      dropMm: max([known?.dropMm, dropMm], (each) => each) ?? null
    });
  };
  for (const record of records) {
    if (record.kind === 'pipeLine')
      for (const { treeId, dropMm } of record.drops) limit(treeId, { highestMm: null, dropMm });
    const highestMm = record.kind === 'collectingPlace' ? highestTapMm(record) : null;
    if (record.kind === 'collectingPlace' && highestMm !== null)
      for (const treeId of record.treeIds) limit(treeId, { highestMm, dropMm: null });
  }
  return limits;
}

/** A band is at least so high, mm: a hole has to fit in. */
const LEAST_BAND_MM = 100;

/** The bush's own numbers as they hold at a tree: a pail on the ground sets how high its taps may be, a line how far its tube reaches. */
export function settingsAt(settings: BushSettings, hanging: Hanging | undefined): TreeSettings {
  const { highestMm = null, dropMm = null } = hanging ?? {};
  const low = highestMm !== null && highestMm < settings.highestMm;
  if (!low && dropMm === null) return settings;
  return {
    ...settings,
    ...(low && { highestMm: Math.max(settings.lowestMm + LEAST_BAND_MM, highestMm) }),
    ...(dropMm !== null && { ownDropMm: dropMm })
  };
}

/** The tube by which a tree hangs on a line, mm; null where its sap runs into a bucket. */
export const dropAt = ({ ownDropMm, dropMm }: TreeSettings): number | null => ownDropMm ?? dropMm;

/** A drop is made new after so many seasons: until then it has to reach. From memory: three to five. */
export const DROP_SEASONS = 5;
/** Tube is cut to this, mm. */
const CUT_MM = 50;

/** How far a tree's drop reaches. */
export interface DropReach {
  /** of the girth, at the height of the line, as thick as the trunk will be when the drop is made new; 0..1 */
  readonly share: number;
  /** seasons until then whose planned holes it does not reach; null where nobody noted where the line passes the trunk */
  readonly missed: readonly number[] | null;
  /** the tube that reaches all round, and each of these holes, mm; what it is where that is long enough */
  readonly wantsMm: number;
}

/**
 * How far a tree's drop reaches until it is made new.
 * @param dropMm the tube that it hangs on @param season the first one that counts
 * @returns null where the trunk was never measured
 */
export function dropReach(tree: TreeState, dropMm: number, season: number): DropReach | null {
  if (tree.dbhMm === null) return null;
  const halfwayMm = Math.PI * (tree.dbhMm / 2 + DROP_SEASONS * tree.growth.ringMm);
  const line = lineOn(tree);
  const trunk = trunkToday(tree.dbhMm, tree.growth.ringMm, season, []);
  const coming = tree.rotation?.coming;
  const first = season + (tree.holesThisSeason.length > 0 ? 1 : 0);
  const holes = (coming?.holes ?? []).flatMap((places, i) =>
    places.map(([bearingDeg, heightMm]) => ({ season: coming!.from + i, bearingDeg, heightMm }))
  );
  const near = holes.filter((hole) => hole.season >= first && hole.season < season + DROP_SEASONS);
  const most = Math.max(halfwayMm, ...(line ? near.map((hole) => apart(trunk, hole, line)) : [])) + DROP_SLACK_MM;
  return {
    share: Math.min(1, Math.max(0, dropMm - DROP_SLACK_MM) / halfwayMm),
    missed: line
      ? [
          ...new Set(
            near.flatMap((hole) => (outOfReach(trunk, hole, { ...line, lengthMm: dropMm }) ? hole.season : []))
          )
        ]
      : null,
    wantsMm: most > dropMm ? Math.ceil(most / CUT_MM) * CUT_MM : dropMm
  };
}

/** Where the line passes a trunk, as it was noted last. */
export const lineOn = ({ trunkFeatures }: Pick<TreeState, 'trunkFeatures'>): TrunkFeature | undefined =>
  trunkFeatures.filter(({ what }) => what === 'line').at(-1);
