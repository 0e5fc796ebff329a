import { barkDistance, writtenSpot, type BarkSpot } from '../geometry/index.ts';
import { seedFrom, wrapDegrees } from '../math/index.ts';
import {
  DEFAULT_BUSH_SETTINGS,
  RESTS_ON,
  type BushSettings,
  type RestsOn,
  type RotationRecord,
  type TreeState
} from '../records/index.ts';
import {
  ROTATION_PLANNER,
  UNSETTLED,
  type KeptRotation,
  type PlacedRotation,
  type PlannedHole
} from '../rotation/index.ts';
import { DEFAULT_COLUMNS, type ColumnModel } from '../trunk/index.ts';
import { dropAt, lineOn, type TreeSettings } from './hanging.ts';
import { AS_PLANNED_MM, roundState } from './round.ts';

type Coming = NonNullable<RotationRecord['coming']>;
type Stamps = RotationRecord['restsOn'];
type Spot = RotationRecord['holes'][number];
type Place = Coming['holes'][number][number];

/** What the plan of a trunk's seasons is held against: what was planned before, and what was learned since. */
export interface RotationBasis {
  readonly season: number;
  /** holes of a season, as far as somebody decided */
  readonly taps: number;
  /** null before the first plan */
  readonly kept: KeptRotation | null;
  /** are the season's holes in the book, and was nothing learned since? */
  readonly settled: boolean;
  /** planned for this season and drilled there or thereabouts */
  readonly done: readonly Spot[];
  /** what was learned since the plan was looked at last */
  readonly news: readonly RestsOn[];
  readonly ringMm: number;
  /** how deep the bush drills, mm */
  readonly practiceDepthMm: number;
  /** all of the kept plan, drilled holes and past seasons included; by another way of placing, the season's holes */
  readonly coming: Coming | null;
  /** stamps of what a plan follows from */
  readonly stamps: (coming: Coming) => Stamps;
}

interface Asked {
  readonly settings: TreeSettings;
  readonly season: number;
  readonly model: ColumnModel;
  readonly barkRadiusMm: number;
}

/** Where one of these changed, another plan may be better although the kept one holds what it promised. */
const MAY_BE_BETTER: ReadonlySet<RestsOn> = new Set(['count', 'band', 'practice', 'wishes', 'columns', 'planner']);
/** And where the trunk lays so much more or less wood than it was taken to. Working assumption. */
const OTHER_GROWTH = 0.15;
/** A plan is written out again after so many seasons: it has to reach far enough ahead. */
const WRITTEN_OUT_EVERY = 10;
/** Whoever reads a plan cannot tell places apart that are nearer than this round the trunk, degrees. */
const SAME_DEG = 0.5;
/** Nor places that are nearer than this in height, mm. */
const SAME_MM = 5;

/** What the plan of a tree's seasons is held against. */
export function basisOf(tree: TreeState, asked: Asked): RotationBasis {
  const { season, barkRadiusMm } = asked;
  const { ringMm } = tree.growth;
  const record = tree.rotation;
  const ahead = record?.coming && covers(record.coming, season) ? record.coming : null;
  const taps = tree.decision?.taps || ahead?.taps || 1;
  const rotates = asked.settings.strategy === 'rotation';
  const coming = rotates
    ? ahead
    : record?.season === season
      ? thisSeason({ season, taps, ringMm }, record.holes)
      : null;
  const stamps = (of: Coming) => stampsOf(tree, { ...asked, taps }, of);
  const basis = { season, taps, ringMm, coming, stamps, practiceDepthMm: asked.settings.depthMm };
  if (!record || !coming) return { ...basis, kept: null, settled: false, done: [], news: [] };
  const now = stamps(coming);
  // A newer program than this one knows better: the two would undo each other's plans in turn.
  const newer = Number(record.restsOn.planner) > ROTATION_PLANNER;
  const news = newer ? [] : RESTS_ON.filter((each) => now[each] !== record.restsOn[each]);
  const round = roundState(placesOf(coming, season), tree.holesThisSeason, barkRadiusMm);
  const later = coming.holes
    .slice(season - coming.from + 1)
    .flatMap((places, i) => places.map((place) => plannedAt(place, i + 1)));
  const other = Math.abs(ringMm / coming.ringMm - 1) > OTHER_GROWTH;
  const settled = news.length === 0 && record.season === season;
  const anew = other || news.some((each) => MAY_BE_BETTER.has(each));
  const promised = record.season === season ? record.holes : [];
  return {
    ...basis,
    news,
    settled,
    // By another way of placing nothing is carried on: its holes are named until something is learned.
    kept:
      rotates || settled
        ? { holes: [...round.open, ...later], look: settled ? 'settled' : anew ? 'anew' : 'carry' }
        : null,
    done: round.done.map(({ bearingDeg, heightMm }) => ({
      bearingDeg,
      heightMm,
      pClear: promised.find((spot) => samePlace(spot, { bearingDeg, heightMm }))?.pClear ?? 1
    }))
  };
}

/** How deep a tree's holes of a season are drilled, mm of wood: as the bush does, or less where its plan says so. */
export function plannedDepth({ rotation }: TreeState, season: number, { depthMm }: BushSettings): number {
  // Plans of before did not say it.
  return Math.min(depthMm, (rotation?.season === season ? rotation.depthMm : null) ?? depthMm);
}

/**
 * What is to be kept of a plan that was made or looked at.
 * @returns the fields of a record; null where the kept one says it all
 */
export function rotationToKeep(
  basis: RotationBasis,
  seed: number,
  { rotation, proposals, depthMm }: PlacedRotation
): Omit<RotationRecord, 'id' | 'treeId' | 'on' | 'recordedAt' | 'correctsId' | 'withdrawn' | 'authorId'> | null {
  const { season, kept, done, news, taps, ringMm, settled, practiceDepthMm } = basis;
  if (settled) return null;
  const open = rotation
    ? proposals.filter(({ planned }) => planned)
    : proposals.slice(0, Math.max(0, taps - done.length));
  const holes = [
    ...done,
    ...open.map(({ bearingDeg, heightMm, outlook }) => ({
      ...writtenSpot({ bearingDeg, heightMm }),
      pClear: Math.round(1000 * outlook.pClear) / 1000
    }))
  ];
  const shallower = depthMm < practiceDepthMm ? depthMm : null;
  const record = { kind: 'rotation' as const, season, holes, depthMm: shallower, news: [...news], seed };
  if (!rotation) {
    const verdict = basis.coming === null ? 'first' : 'changed';
    const restsOn = basis.stamps(thisSeason(basis, holes));
    return { ...record, verdict, saves: null, restsOn, coming: null };
  }
  const { plan, changed, saves } = rotation;
  const other = changed || (kept !== null && moved(kept.holes, plan));
  const asBefore = !other && basis.coming !== null && season - basis.coming.from < WRITTEN_OUT_EVERY;
  const coming: Coming = asBefore
    ? basis.coming
    : { from: season, taps, ringMm, holes: bySeason([...done.map(drilledHole), ...plan]) };
  return {
    ...record,
    verdict: kept === null ? 'first' : other ? 'changed' : saves !== null || news.length > 0 ? 'holds' : 'carried',
    saves: saves === null ? null : Math.min(1, saves),
    restsOn: basis.stamps(coming),
    coming: asBefore ? null : coming
  };
}

/** The holes of a season as a plan that ends with it. */
const thisSeason = (
  { season, taps, ringMm }: Pick<RotationBasis, 'season' | 'taps' | 'ringMm'>,
  holes: readonly Spot[]
): Coming => ({
  from: season,
  taps,
  ringMm,
  holes: [holes.map(({ bearingDeg, heightMm }): Place => [bearingDeg, heightMm, 0])]
});

const covers = ({ from, holes }: Coming, season: number) => season >= from && season < from + holes.length;
const plannedAt = ([bearingDeg, heightMm, lost]: Place, season: number): PlannedHole => ({
  season,
  bearingDeg,
  heightMm,
  lost
});
const placesOf = ({ from, holes }: Coming, season: number): PlannedHole[] =>
  (holes[season - from] ?? []).map((place) => plannedAt(place, 0));
const drilledHole = ({ bearingDeg, heightMm }: Spot): PlannedHole => ({ season: 0, bearingDeg, heightMm, lost: 0 });

/** A plan season by season. */
function bySeason(plan: readonly PlannedHole[]): Coming['holes'] {
  const seasons: Coming['holes'] = Array.from(
    { length: 1 + Math.max(0, ...plan.map(({ season }) => season)) },
    () => []
  );
  for (const { season, bearingDeg, heightMm, lost } of plan)
    seasons[season]!.push([bearingDeg, heightMm, Number(lost.toFixed(4))]);
  return seasons;
}

const samePlace = (a: BarkSpot, b: BarkSpot) =>
  Math.abs(wrapDegrees(a.bearingDeg - b.bearingDeg)) < SAME_DEG && Math.abs(a.heightMm - b.heightMm) < SAME_MM;

/** Do holes of the kept plan lie elsewhere now? Its last seasons are moved about still, and do not count. */
function moved(kept: readonly PlannedHole[], plan: readonly PlannedHole[]): boolean {
  const until = 1 + Math.max(0, ...plan.map(({ season }) => season)) - UNSETTLED;
  return kept.some(
    (hole) => hole.season < until && !plan.some((other) => other.season === hole.season && samePlace(hole, other))
  );
}

/** What is not as in any new bush: a setting that is new in the program is no news. */
const unlike = <T extends object>(own: Partial<T>, usual: T) =>
  Object.entries(own).filter(([name, value]) => JSON.stringify(value) !== JSON.stringify(usual[name as keyof T]));

/** Short stamps: what differs is another, and that is all that is asked of them. */
const stampOf = (of: unknown) => (seedFrom(JSON.stringify(of)) >>> 0).toString(36);

function stampsOf(
  tree: TreeState,
  { settings, season, model, barkRadiusMm, taps }: Asked & { readonly taps: number },
  coming: Coming
): Stamps {
  const { lowestMm, highestMm, snowMm, bitMm, depthMm, spacingMm } = settings;
  // Where nobody noted where the line passes it, a tube of its own changes nothing.
  const dropMm = lineOn(tree) ? dropAt(settings) : settings.dropMm;
  const { favours, favouredDeg, foresight, strategy } = settings;
  const asPlanned = (hole: BarkSpot & { readonly season: number }) =>
    placesOf(coming, hole.season).some((to) => barkDistance(to, hole, barkRadiusMm) <= AS_PLANNED_MM);
  const handOf = ({ authorId }: { readonly authorId?: string }) => settings.hands[authorId ?? ''];
  const ids = (records: Iterable<{ readonly id: string }>) => Array.from(records, ({ id }) => id).sort();
  const seen = [...tree.shavings.values()].filter((each) => each.seen !== 'pale');
  const of: Record<RestsOn, unknown> = {
    // Holes where they were planned teach nothing, nor do pale shavings: that is what was expected.
    holes: [
      ids(tree.tapholes.filter((hole) => hole.season <= season && !asPlanned(hole))),
      ids(tree.scars),
      ...(tree.tappedBefore ? [tree.tappedBefore.answer] : [])
    ],
    shavings: ids(seen),
    growth: ids(tree.readings),
    trunk: [ids(tree.trunkFeatures), tree.assessment?.defects.filter(({ heightMm }) => heightMm !== null) ?? []],
    count: taps,
    band: [lowestMm, highestMm],
    snow: snowMm,
    practice: [bitMm, depthMm, spacingMm, dropMm],
    wishes: unlike({ favours, favouredDeg, foresight, strategy }, DEFAULT_BUSH_SETTINGS),
    columns: [...unlike(model, DEFAULT_COLUMNS), ...tree.tapholes.flatMap((hole) => handOf(hole) ?? [])],
    planner: ROTATION_PLANNER
  };
  const stamps = Object.fromEntries(RESTS_ON.map((each) => [each, stampOf(of[each])])) as Stamps;
  return { ...stamps, planner: String(ROTATION_PLANNER) };
}
