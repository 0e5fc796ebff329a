import { isMaple, judge, likelyAge, SHIPPED_TABLE } from '@baumkin/core/identify';
import { seededRng, seedFrom, type Rng } from '@baumkin/core/math';
import { girthFromDiameter, insideBark } from '@baumkin/core/measure';
import type { RecordInput } from '@baumkin/core/records';
import {
  columnOf,
  DEFAULT_COLUMNS,
  drawHole,
  overlapOf,
  readShavings,
  shorterWay,
  stainedShare,
  TREE_SIZE_SIGMA,
  type Column
} from '@baumkin/core/trunk';

import { envelopeOf, round, type Envelope, type TaggedTree } from './draw.ts';
import { STANDS } from './landscape.ts';
import type { TrueTree } from './wood.ts';

const LAST_AUTUMN = 2026;
const FIRST_SEASON = 1998;
const PATTERN_SINCE = 2012;
/** The year in which nobody tapped. */
const SKIPPED = 2020;

/** What a tree's past is written into, and drawn from. */
interface Life {
  readonly number: number;
  readonly rng: Rng;
  readonly envelope: Envelope;
  readonly records: RecordInput[];
}

/** Everything that was recorded of a tree. */
export function lifeOf(tree: TrueTree, row: TaggedTree, rng: Rng, uuid: () => string): RecordInput[] {
  const records: RecordInput[] = [];
  const envelope = envelopeOf(row.id, uuid);
  const number = Number(row.tag);

  const life = { number, rng, envelope, records };
  determine(tree, life);
  readings(tree, life);
  lookUp(tree, life);
  drill(tree, life);

  const wildlife = STANDS[tree.stand]!.purpose === 'wildlife';
  if (tree.species === 'beech' && !wildlife && number % 3 === 0)
    records.push({
      ...envelope('2026-10-18'),
      kind: 'mark',
      purpose: 'take',
      reason: 'beech in decline, crowding a crop tree'
    });
  if (wildlife && number % 19 === 0)
    records.push({
      ...envelope('2025-08-03'),
      kind: 'mark',
      purpose: 'keep',
      reason: 'den tree: cavity in use',
      keepFor: 'home'
    });
  const tapped = STANDS[tree.stand]!.tappedSince !== null && isMaple(tree.species);
  if (tapped && number <= 36 && tree.dbhMm > 305) {
    const taps = tree.dbhMm > 460 && tree.ringMm > 1.2 ? 2 : 1;
    records.push({
      ...envelope('2026-11-15'),
      kind: 'decision',
      season: 2027,
      taps,
      suggested: taps,
      binding: 'size'
    });
  }
  return records;
}

function determine(tree: TrueTree, { number, rng, envelope, records }: Life): void {
  if (number % 29 === 17) return;
  const age = likelyAge(tree.dbhMm);
  const lookSeason = 'leaf';
  const evidence: Record<string, string> = {};
  for (const character of SHIPPED_TABLE.visible(age, lookSeason)) {
    const shares = character.seen[tree.species];
    if (!shares || character.strength === 'weak') continue;
    evidence[character.id] = Object.entries(shares).reduce((a, b) => (b[1] > a[1] ? b : a))[0];
  }
  // Some were seen in winter only, by a few twigs; of some the bark alone.
  const luck = isMaple(tree.species) ? rng.uniform() : 1;
  const left = luck < 0.04 ? FEW_TWIGS : luck < 0.06 ? BARK_ALONE : null;
  const kept = left ? Object.fromEntries(Object.entries(evidence).filter(([id]) => left.includes(id))) : evidence;
  const { verdict, candidates } = judge(kept, age);
  records.push({
    ...envelope(left ? '2022-01-15' : number % 2 ? '2019-07-20' : '2014-08-12'),
    kind: 'determination',
    verdict,
    species: candidates[0]!.species,
    probability: candidates[0]!.probability,
    age,
    basis: 'clues',
    lookSeason: left ? 'bare' : 'leaf',
    evidence: kept
  });
}

const FEW_TWIGS = ['arrangement', 'twigStoutness', 'twigColour', 'barkGrown', 'barkYoung'];
const BARK_ALONE = ['arrangement', 'barkGrown', 'barkYoung', 'barkOld'];

function readings(tree: TrueTree, { number, rng, envelope, records }: Life): void {
  for (const year of [2009, 2014, 2019, 2024]) {
    const dbh = diameterIn(tree, year + 0.8);
    if (dbh < 80 || rng.uniform() < (year === 2024 ? 0.1 : 0.06)) continue;
    const on = `${year}-10-${String(10 + (number % 15)).padStart(2, '0')}`;
    if (year < 2019) {
      const girth = Math.round(girthFromDiameter(dbh + rng.normal(0, 3)) / 5) * 5;
      records.push({
        ...envelope(on),
        kind: 'reading',
        quantity: 'girth',
        valueMm: girth,
        asWritten: `${girth / 10} cm`,
        method: 'girthTape',
        heightMm: 1300
      });
      continue;
    }
    let diameter = Math.round(dbh + rng.normal(0, 2));
    // A few slips of the pencil, for the guard to find.
    if (year === 2024 && number % 97 === 40) diameter = Math.round(girthFromDiameter(diameter));
    if (year === 2024 && number % 131 === 60) diameter = Math.round(diameter / 2.54);
    records.push({
      ...envelope(on),
      kind: 'reading',
      quantity: 'diameter',
      valueMm: diameter,
      asWritten: `${diameter / 10} cm`,
      method: 'diameterTape',
      heightMm: 1300
    });
  }
}

function lookUp(tree: TrueTree, { rng, envelope, records }: Life): void {
  if (rng.uniform() < 0.18) return;
  const declining = tree.species === 'beech' || tree.species === 'whiteAsh';
  const drawn = declining
    ? 15 + rng.uniform() * 60
    : Math.max(0, rng.normal(tree.crownClass === 'suppressed' ? 14 : 5, 6));
  records.push({
    ...envelope('2025-07-12'),
    kind: 'assessment',
    diebackPct: Math.min(95, Math.round(drawn / 5) * 5),
    crownClass: tree.crownClass,
    oldestOpenHoleYears: isMaple(tree.species) && rng.uniform() < 0.05 ? 3 : null,
    stressed: rng.uniform() < 0.02,
    defects: drawn > 40 ? [{ kind: 'canker', bearingDeg: 15 * Math.floor(24 * rng.uniform()), heightMm: 1100 }] : [],
    hazards: drawn > 55 ? ['deadTop'] : [],
    wildlife: drawn > 62 ? ['woodpeckers'] : []
  });
}

/** Holes since 1998: on the sunny side at first, by a pattern later. The shavings come from the tree's true columns. */
function drill(tree: TrueTree, { rng, envelope, records }: Life): void {
  const since = STANDS[tree.stand]!.tappedSince;
  if (since === null || !isMaple(tree.species) || tree.species === 'stripedMaple') return;
  const leanDeg = rng.normal(0, DEFAULT_COLUMNS.grainSdDeg);
  const logSize = rng.normal(0, TREE_SIZE_SIGMA);
  const columns: { bearingDeg: number; season: number; column: Column }[] = [];
  const start = 360 * rng.uniform();
  let along = 0;
  for (let season = Math.max(since, FIRST_SEASON); season <= LAST_AUTUMN; season++) {
    const dbh = diameterIn(tree, season);
    if (season === SKIPPED || dbh < 265 || rng.uniform() < 0.03) continue;
    const taps = dbh > 450 ? 2 : 1;
    const bitMm = season < 2009 ? 11.1125 : 7.9375;
    const depthMm = season < 2009 ? 50.8 : 38.1;
    const radius = insideBark(dbh) / 2;
    for (let tap = 0; tap < taps; tap++) {
      const sunny = season < PATTERN_SINCE;
      if (!sunny) along += ((50 / radius) * 180) / Math.PI;
      const bearing = sunny ? rng.normal(180, 30) : start + along / taps + tap * 180;
      const height = sunny ? 700 + 700 * rng.uniform() : 1050 + (season % 2 ? 115 : -115);
      const bearingDeg = round((((bearing % 360) + 360) % 360) % 360, 0) % 360;
      const heightMm = Math.round(height / 10) * 10;
      const hole = {
        ...envelope(`${season}-02-${String(10 + ((tap + season) % 15)).padStart(2, '0')}`),
        kind: 'taphole' as const,
        season,
        bearingDeg,
        heightMm,
        bitMm,
        depthMm,
        predictedClear: null,
        strategy: sunny ? ('sunny' as const) : ('pattern' as const)
      };
      records.push(hole);
      // The hole is where it is, not quite where it was written down.
      const truth = drawHole({ ...hole, buriedMm: 0 }, DEFAULT_COLUMNS, rng);
      const drilled = {
        ...hole,
        bearingDeg: bearingDeg + ((truth.leftMm / radius) * 180) / Math.PI,
        heightMm: heightMm + truth.upMm
      };
      const share = stainMet(columns, { season, radius, ringMm: tree.ringMm }, drilled);
      if (season >= 2021) {
        const { seen, brownShare } = readShavings(share, DEFAULT_COLUMNS.hitShare, seededRng(seedFrom(hole.id)));
        records.push({
          ...envelope(hole.on),
          kind: 'shavings',
          tapholeId: hole.id,
          seen,
          brownShare: brownShare === null ? null : Math.round(brownShare * 20) / 20,
          brownFromMm: null
        });
      }
      columns.push({
        bearingDeg,
        season,
        column: columnOf(
          { woodRadiusMm: radius, barkRadiusMm: dbh / 2, holes: [{ ...hole, bearingDeg: 0, buriedMm: 0 }] },
          { leanDeg, logSize, growth: 1, holes: [truth] },
          0
        )
      });
    }
  }
}

/** Share of a new hole's path in the tree's true columns. */
function stainMet(
  columns: readonly { bearingDeg: number; season: number; column: Column }[],
  { season, radius, ringMm }: { season: number; radius: number; ringMm: number },
  hole: { bearingDeg: number; heightMm: number; bitMm: number; depthMm: number }
): number {
  const round = 2 * Math.PI * radius;
  const overlaps = columns.flatMap(({ bearingDeg, season: drilled, column }) => {
    const buried = (season - drilled) * ringMm;
    const today = { ...column, fromDepthMm: buried, toDepthMm: buried + column.toDepthMm };
    const offset = shorterWay(column.leftMm + (((bearingDeg - hole.bearingDeg) * Math.PI) / 180) * radius, round);
    const overlap = overlapOf(today, { ...hole, offsetMm: offset });
    return overlap ? [overlap] : [];
  });
  return stainedShare(overlaps, hole.bitMm, hole.depthMm);
}

function diameterIn(tree: TrueTree, year: number): number {
  return Math.max(20, tree.dbhMm - 2 * tree.ringMm * (LAST_AUTUMN + 0.75 - year));
}
