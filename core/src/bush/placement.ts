import type { BarkSpot } from '../geometry/index.ts';
import { seedFrom, toRadians } from '../math/index.ts';
import type { BushSettings, Taphole, TreeState, TrunkFeature } from '../records/index.ts';
import type { Defect, PlacementTask } from '../rotation/index.ts';
import { guidelineTaps } from '../taps/index.ts';
import {
  DEFAULT_PRACTICE,
  trunkToday,
  withHands,
  type OldHole,
  type SeenShavings,
  type Trunk,
  type WoundKind
} from '../trunk/index.ts';
import { dropAt, lineOn, type TreeSettings } from './hanging.ts';
import { modelOf } from './policy.ts';
import { hiddenHoles, scarsToFind } from './pastTapping.ts';
import { basisOf, type RotationBasis } from './rotationBasis.ts';
import { guidelineAt } from './suggestion.ts';

/** Fine enough for the picture to hold still, within a second: see `npm run bench`. */
const FULL = { draws: 500, cellMm: 12 };
/** Coarse enough to be there at once; no holes are planned and nothing learned for it. */
export const FIRST = { draws: 60, cellMm: 30, taps: 0, seen: [] };

/** What the placement of a tree is computed from, and the holes in the order in which the answer names them. */
export interface TreePlacement {
  readonly task: PlacementTask;
  readonly holes: readonly Taphole[];
  /** old holes of unknown year that can be found on the bark */
  readonly scars: readonly BarkSpot[];
  /** what the plan of its seasons is held against */
  readonly basis: RotationBasis;
}

/** Holes keep this far from what stands on a trunk, mm. Common practice: a hand from wounds, half a hand from the rest. */
const MARGINS_MM: Partial<Record<TrunkFeature['what'], number>> = { limb: 100, root: 100, seam: 100, wound: 150 };
/** Holes keep this far from a defect that somebody saw on the trunk, mm. Common practice: a hand. */
const DEFECT_MARGIN_MM = 150;

/** What a hole keeps away from: defects whose place is known, and what stands on the trunk. */
function keptOff({ assessment, trunkFeatures }: TreeState): Defect[] {
  const defects = (assessment?.defects ?? []).flatMap(({ kind, bearingDeg, heightMm }): Defect[] =>
    bearingDeg === null || heightMm === null ? [] : [{ bearingDeg, heightMm, marginMm: DEFECT_MARGIN_MM, what: kind }]
  );
  const features = trunkFeatures.flatMap(({ what, bearingDeg, heightMm }): Defect[] => {
    const marginMm = MARGINS_MM[what];
    return marginMm === undefined ? [] : [{ bearingDeg, heightMm, marginMm, what }];
  });
  return [...defects, ...features];
}

/** The warm side is the south, north of the equator. */
const WARM_DEG = 180;

/** Sides that this bush likes better, as bearings. */
function favouredSides({ favours, favouredDeg }: BushSettings, { trunkFeatures }: TreeState): number[] {
  const sidesOf = (...kinds: TrunkFeature['what'][]) =>
    trunkFeatures.filter(({ what }) => kinds.includes(what)).map(({ bearingDeg }) => bearingDeg);
  return [
    ...(favouredDeg === null ? [] : [favouredDeg]),
    ...(favours.includes('warmSide') ? [WARM_DEG] : []),
    ...(favours.includes('limbsAndRoots') ? sidesOf('limb', 'root') : []),
    ...(favours.includes('lineSide') ? sidesOf('line') : [])
  ];
}

/** A bucket or spout hangs at least this far above the snow, mm. Working assumption. */
const ABOVE_SNOW_MM = 150;

/** The band within reach: feet stand on the snow, and nothing hangs in it. */
export function bandOf({ lowestMm, highestMm, snowMm }: Pick<BushSettings, 'lowestMm' | 'highestMm' | 'snowMm'>): {
  lowestMm: number;
  highestMm: number;
} {
  const highest = highestMm + snowMm;
  return {
    lowestMm: Math.min(highest - 100, Math.max(lowestMm, snowMm > 0 ? snowMm + ABOVE_SNOW_MM : 0)),
    highestMm: highest
  };
}

/** Each of a group of scars as a hole of which little is known. */
function unsureHoles(
  { scars, growth: { ringMm } }: TreeState,
  trunk: Trunk,
  season: number,
  band: ReturnType<typeof bandOf>
): OldHole[] {
  return scars.flatMap(({ many, bearingDeg, spreadDeg, heightMm, fromSeason, toSeason, bitMm, depthMm }) => {
    const hole: OldHole = {
      season: toSeason,
      bearingDeg: bearingDeg ?? 0,
      heightMm: heightMm ?? (band.lowestMm + band.highestMm) / 2,
      bitMm,
      depthMm,
      buriedMm: Math.max(0, season - (fromSeason + toSeason) / 2) * ringMm,
      unsure: {
        // Anywhere round the trunk: a bell so wide that it is even once it has been wrapped.
        sidewaysMm: bearingDeg === null ? Math.PI * trunk.woodRadiusMm : toRadians(spreadDeg) * trunk.woodRadiusMm,
        upMm: heightMm === null ? (band.highestMm - band.lowestMm) / 3 : 30,
        buriedFromMm: Math.max(0, season - toSeason) * ringMm,
        buriedToMm: Math.max(0, season - fromSeason) * ringMm
      }
    };
    return Array.from({ length: many }, () => hole);
  });
}

/** How wide the wood is taken to have been laid open, mm. Working assumptions. */
const OPENED_MM: Readonly<Record<WoundKind, number>> = { wound: 60, limb: 60, seam: 20 };
const isWound = (what: TrunkFeature['what']): what is WoundKind => what in OPENED_MM;

/** Wounds of a known year, each as a hole as wide as it was and as deep as the tree: wood that was laid since is clear. */
function woundsOf({ trunkFeatures, growth: { ringMm } }: TreeState, trunk: Trunk, season: number): OldHole[] {
  return trunkFeatures.flatMap(({ what, since, bearingDeg, heightMm }): OldHole[] => {
    // Of older records it was not asked.
    if (!isWound(what) || !since || since > season) return [];
    const buriedMm = (season - since) * ringMm;
    const depthMm = Math.max(1, trunk.woodRadiusMm - buriedMm);
    return [{ season: since, bearingDeg, heightMm, bitMm: OPENED_MM[what], depthMm, buriedMm, wound: what }];
  });
}

/** The trunk of a tree as the placement sees it, and its known holes in the same order. */
export function trunkOf(
  tree: TreeState,
  settings: BushSettings,
  season: number
): { trunk: Trunk; holes: readonly Taphole[] } | null {
  if (tree.tappingDbhMm === null) return null;
  const holes = tree.tapholes.filter((hole) => hole.season <= season);
  const { ringMm } = tree.growth;
  const known = withHands(trunkToday(tree.tappingDbhMm, ringMm, season, holes), settings);
  const scars = tree.scars.filter((scar) => scar.fromSeason <= season);
  const band = bandOf(settings);
  const unsure = unsureHoles({ ...tree, scars }, known, season, band);
  const hidden = hiddenHoles({ ...tree, scars }, known, { season, settings, band });
  const others = [...unsure, ...hidden, ...woundsOf(tree, known, season)];
  return { holes, trunk: { ...known, holes: [...known.holes, ...others] } };
}

/** Nothing is known of growth that is less sure than this. */
const LARGEST_RING_CV = 0.6;
/** Relative uncertainty of the growth that buried a tree's holes. */
export const ringCvOf = ({ growth: { ringSeMm, ringMm } }: TreeState) => Math.min(LARGEST_RING_CV, ringSeMm / ringMm);

/** How far the day ran, by how the others ran. Working assumption for a little. */
const RAN = { well: 1, little: 0.5, none: 0 } as const;

/** What was seen of the shavings of the trunk's holes. */
export function seenOf(holes: readonly Taphole[], { shavings }: TreeState): SeenShavings[] {
  return holes.flatMap(({ id }, hole) => {
    const seen = shavings.get(id);
    if (!seen) return [];
    const { brownShare, brownFromMm, othersRan } = seen;
    return [{ hole, seen: seen.seen, brownShare, brownFromMm, ...(othersRan && { ran: RAN[othersRan] }) }];
  });
}

/** Is it thinner than the bush's guideline begins to tap at, and nobody decided to tap it? No hole is named on such a trunk. */
export function tooThinToTap({ dbhMm, decision, line: { species } }: TreeState, settings: BushSettings): boolean {
  return dbhMm !== null && !decision?.taps && guidelineTaps(guidelineAt(species, settings), dbhMm) === 0;
}

/** What the placement of a tree's holes is computed from. @returns null before the tree has been measured */
export function placementOf(
  tree: TreeState,
  asked: {
    readonly treeId: string;
    readonly settings: TreeSettings;
    readonly season: number;
    /** holes to propose */
    readonly wanted: number;
  }
): TreePlacement | null {
  const { treeId, settings, season, wanted } = asked;
  const found = trunkOf(tree, settings, season);
  if (!found) return null;
  const { bitMm, depthMm, spacingMm, angleDeg, strategy } = settings;
  const { holes, trunk } = found;
  const [line, dropMm] = [lineOn(tree), dropAt(settings)];
  const columns = modelOf(settings, tree.determination?.species ?? null, tree.entry?.standId ?? null);
  // Nobody taps a hollow.
  const model = { ...columns, sapwoodMm: Math.min(columns.sapwoodMm, tree.line.hollow?.fromMm ?? Infinity) };
  const basis = basisOf(tree, { settings, season, model, barkRadiusMm: trunk.barkRadiusMm });
  return {
    holes,
    scars: scarsToFind(tree),
    basis,
    task: {
      trunk,
      practice: { ...DEFAULT_PRACTICE, ...bandOf(settings), bitMm, depthMm, spacingMm, angleDeg },
      model,
      seed: seedFrom(treeId),
      ringMm: tree.growth.ringMm,
      ringCv: ringCvOf(tree),
      wanted,
      taps: tooThinToTap(tree, settings) ? 0 : basis.taps,
      keepOff: keptOff(tree),
      line: line && dropMm !== null ? { bearingDeg: line.bearingDeg, heightMm: line.heightMm, lengthMm: dropMm } : null,
      taken: tree.holesThisSeason.map(({ bearingDeg, heightMm }) => ({ bearingDeg, heightMm })),
      seen: seenOf(holes, tree),
      strategy,
      favoured: favouredSides(settings, tree),
      usual: bandOf({ ...settings, snowMm: 0 }),
      foresight: settings.foresight,
      kept: basis.kept,
      ...FULL
    }
  };
}
