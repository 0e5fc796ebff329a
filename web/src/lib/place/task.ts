import {
  DEFAULT_COLUMNS,
  DEFAULT_PRACTICE,
  seedFrom,
  trunkToday,
  type BushSettings,
  type PlacementTask,
  type Taphole,
  type TreeState
} from '@baumkin/core';

/** Fine enough for the picture to hold still, within a second: see `npm run bench`. */
const FULL = { draws: 600, cellMm: 12 };
/** Coarse enough to be there at once. */
export const FIRST = { draws: 60, cellMm: 30 };

/** What the placement of a tree is computed from, and the holes in the order in which the answer names them. */
export interface TreePlacement {
  readonly task: PlacementTask;
  readonly holes: readonly Taphole[];
}

/** A hole keeps this far from a defect of the trunk. Common practice: a hand. */
const DEFECT_MARGIN_MM = 150;

/** Defects whose place on the trunk is known. */
function defectsOf({ assessment }: TreeState) {
  return (assessment?.defects ?? []).flatMap(({ bearingDeg, heightMm }) =>
    bearingDeg === null || heightMm === null ? [] : [{ bearingDeg, heightMm, marginMm: DEFECT_MARGIN_MM }]
  );
}

/** @returns null before the tree has been measured */
export function placementOf(
  treeId: string,
  tree: TreeState,
  settings: BushSettings,
  season: number,
  wanted: number
): TreePlacement | null {
  if (tree.dbhMm === null) return null;
  const holes = tree.holes.filter((hole) => hole.season <= season);
  const { bitMm, depthMm, lowestMm, highestMm, spacingMm } = settings;
  return {
    holes,
    task: {
      trunk: trunkToday(tree.dbhMm, tree.growth.ringMm, season, holes),
      practice: { ...DEFAULT_PRACTICE, bitMm, depthMm, lowestMm, highestMm, spacingMm },
      model: DEFAULT_COLUMNS,
      seed: seedFrom(treeId),
      ringCv: Math.min(0.6, tree.growth.ringSeMm / tree.growth.ringMm),
      wanted,
      defects: defectsOf(tree),
      taken: tree.holesThisSeason.map(({ bearingDeg, heightMm }) => ({ bearingDeg, heightMm })),
      ...FULL
    }
  };
}
