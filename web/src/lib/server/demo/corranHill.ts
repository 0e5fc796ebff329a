import {
  basalArea,
  CHARACTERS,
  crownRadius,
  drawColumn,
  DEFAULT_COLUMNS,
  girthFromDiameter,
  insideBark,
  isMaple,
  overlapOf,
  seededRng,
  shorterWay,
  stainedShare,
  type AgeClass,
  type Column,
  type CrownClass,
  type Rng,
  type SpeciesId,
  type Stand,
  type Tree,
  type WorkRecord
} from '@baumkin/core';

/**
 * Corran Hill Common: an invented village-owned sugarbush on an invented hillside. Everything here is made up by a
 * seeded generator and is for the demo alone; no test of the computation rests on it.
 */
export interface DemoBush {
  readonly stands: Stand[];
  readonly trees: Tree[];
  readonly records: WorkRecord[];
}

type Mix = readonly (readonly [SpeciesId, number])[];

interface StandPlan {
  readonly name: string;
  readonly purpose: Stand['purpose'];
  readonly areaHa: number;
  readonly box: readonly [west: number, south: number, east: number, north: number];
  readonly trees: number;
  readonly clumps: number;
  readonly mix: Mix;
  readonly tappedSince: number | null;
}

const STANDS: readonly StandPlan[] = [
  {
    name: 'Upper Bush',
    purpose: 'syrup',
    areaHa: 2.7,
    box: [0, 90, 230, 205],
    trees: 232,
    clumps: 26,
    mix: [
      ['sugarMaple', 0.81],
      ['redMaple', 0.04],
      ['beech', 0.05],
      ['yellowBirch', 0.03],
      ['whiteAsh', 0.03],
      ['basswood', 0.02],
      ['hophornbeam', 0.02]
    ],
    tappedSince: 1998
  },
  {
    name: 'Brook Bottom',
    purpose: 'mixed',
    areaHa: 1.8,
    box: [0, 0, 230, 80],
    trees: 108,
    clumps: 14,
    mix: [
      ['redMaple', 0.46],
      ['sugarMaple', 0.25],
      ['whiteAsh', 0.1],
      ['yellowBirch', 0.09],
      ['elm', 0.05],
      ['silverMaple', 0.03],
      ['basswood', 0.02]
    ],
    tappedSince: 2014
  },
  {
    name: 'North Ledge',
    purpose: 'wildlife',
    areaHa: 1.5,
    box: [240, 60, 330, 205],
    trees: 64,
    clumps: 10,
    mix: [
      ['beech', 0.32],
      ['sugarMaple', 0.3],
      ['redOak', 0.14],
      ['hophornbeam', 0.1],
      ['blackCherry', 0.07],
      ['aspen', 0.04],
      ['stripedMaple', 0.03]
    ],
    tappedSince: null
  }
];

/** What is true of an invented tree, whether anybody has recorded it or not. */
interface TrueTree {
  readonly stand: number;
  readonly species: SpeciesId;
  readonly eastM: number;
  readonly northM: number;
  /** diameter in autumn 2026, mm */
  readonly dbhMm: number;
  readonly ringMm: number;
  readonly crownClass: CrownClass;
}

const LAST_AUTUMN = 2026;
const FIRST_SEASON = 1998;
const PATTERN_SINCE = 2012;
/** The year in which nobody tapped. */
const SKIPPED = 2020;

export function corranHill(seed = 1798): DemoBush {
  const rng = seededRng(seed);
  const uuid = uuidMaker(rng);
  const stands = STANDS.map((plan): Stand => ({
    id: uuid(),
    name: plan.name,
    purpose: plan.purpose,
    areaHa: plan.areaHa
  }));
  const wood = walkOrder(growWood(rng));
  const trees = wood.map((tree, i): Tree => ({
    id: uuid(),
    tag: String(i + 1),
    standId: stands[tree.stand]!.id,
    walkOrder: i,
    eastM: round(tree.eastM, 2),
    northM: round(tree.northM, 2),
    positionQuality: STANDS[tree.stand]!.purpose === 'wildlife' ? 'paced' : 'surveyed',
    heightM: null,
    crownRadiusM: null
  }));
  const records = wood.flatMap((tree, i) => lifeOf(tree, trees[i]!, rng, uuid));
  swapTags(trees, records);
  return { stands, trees, records };
}

/** Stems in clumps, each with room for its own trunk; diameters by species and ground. */
function growWood(rng: Rng): Omit<TrueTree, 'crownClass' | 'ringMm'>[] {
  const wood: Omit<TrueTree, 'crownClass' | 'ringMm'>[] = [];
  STANDS.forEach((plan, stand) => {
    const [west, south, east, north] = plan.box;
    const clumps = Array.from({ length: plan.clumps }, () => ({
      eastM: west + 12 + rng.uniform() * (east - west - 24),
      northM: south + 8 + rng.uniform() * (north - south - 16)
    }));
    let placed = 0;
    for (let tries = 0; placed < plan.trees && tries < 20_000; tries++) {
      const clump = clumps[Math.floor(rng.uniform() * clumps.length)]!;
      const eastM = clump.eastM + rng.normal(0, 11);
      const northM = clump.northM + rng.normal(0, 9);
      if (eastM < west || eastM > east || northM < south || northM > north) continue;
      const species = pick(plan.mix, rng);
      const dbhMm = diameterOf(species, rng);
      const crowded = wood.some((o) => Math.hypot(o.eastM - eastM, o.northM - northM) < 1.6 + (o.dbhMm + dbhMm) / 330);
      if (crowded) continue;
      wood.push({ stand, species, eastM, northM, dbhMm });
      placed += 1;
    }
  });
  return wood;
}

function diameterOf(species: SpeciesId, rng: Rng): number {
  const [mean, sd] =
    species === 'sugarMaple'
      ? [375, 110]
      : species === 'hophornbeam' || species === 'stripedMaple'
        ? [170, 40]
        : [320, 90];
  return Math.min(820, Math.max(95, rng.normal(mean, sd)));
}

/** From the entrance in the south-west, stand by stand, always on to the nearest tree, with the worst detours undone. */
function walkOrder(wood: readonly Omit<TrueTree, 'crownClass' | 'ringMm'>[]): TrueTree[] {
  const order: number[] = [];
  let at = { eastM: 0, northM: 90 };
  for (const stand of [0, 1, 2]) {
    const left = new Set(wood.flatMap((tree, i) => (tree.stand === stand ? [i] : [])));
    const start = order.length;
    while (left.size > 0) {
      const next = [...left].reduce((best, i) => (far(wood[i]!, at) < far(wood[best]!, at) ? i : best));
      left.delete(next);
      order.push(next);
      at = wood[next]!;
    }
    untangle(order, start, wood);
    at = wood[order.at(-1)!]!;
  }
  return order.map((i) => withCrown(wood[i]!, wood));
}

/** 2-opt: turns a stretch round wherever that shortens the walk. */
function untangle(order: number[], start: number, wood: readonly { eastM: number; northM: number }[]): void {
  const d = (a: number, b: number) => far(wood[order[a]!]!, wood[order[b]!]!);
  for (let round = 0, better = true; better && round < 20; round++) {
    better = false;
    for (let i = start; i < order.length - 2; i++)
      for (let j = i + 2; j < order.length - 1; j++) {
        if (d(i, j) + d(i + 1, j + 1) >= d(i, i + 1) + d(j, j + 1) - 1e-9) continue;
        order.splice(i + 1, j - i, ...order.slice(i + 1, j + 1).reverse());
        better = true;
      }
  }
}

const far = (a: { eastM: number; northM: number }, b: { eastM: number; northM: number }) =>
  Math.hypot(a.eastM - b.eastM, a.northM - b.northM);

/** Crown class and ring width from how a tree stands among its neighbours. */
function withCrown(
  tree: Omit<TrueTree, 'crownClass' | 'ringMm'>,
  wood: readonly Omit<TrueTree, 'crownClass' | 'ringMm'>[]
): TrueTree {
  const reach = crownRadius(tree.dbhMm, tree.species);
  const near = wood.filter((o) => o !== tree && far(o, tree) < reach + crownRadius(o.dbhMm, o.species) + 1);
  const taller = near.reduce((sum, o) => sum + Math.max(0, basalArea(o.dbhMm) / basalArea(tree.dbhMm) - 0.6), 0);
  const crownClass: CrownClass =
    near.length === 0
      ? 'open'
      : taller < 0.5
        ? 'dominant'
        : taller < 2.2
          ? 'codominant'
          : taller < 6
            ? 'intermediate'
            : 'suppressed';
  const typical = { open: 2.3, dominant: 1.9, codominant: 1.45, intermediate: 0.95, suppressed: 0.5 }[crownClass];
  // A tree's own vigour, from its place: the same tree is always as vigorous.
  const vigour = 0.85 + 0.3 * Math.abs(Math.sin(tree.eastM * 12.9 + tree.northM * 78.2));
  return { ...tree, crownClass, ringMm: typical * vigour };
}

function diameterIn(tree: TrueTree, year: number): number {
  return Math.max(20, tree.dbhMm - 2 * tree.ringMm * (LAST_AUTUMN + 0.75 - year));
}

/** Everything that was recorded of a tree. */
function lifeOf(tree: TrueTree, row: Tree, rng: Rng, uuid: () => string): WorkRecord[] {
  const records: WorkRecord[] = [];
  const envelope = (on: string) => ({
    id: uuid(),
    treeId: row.id,
    on,
    recordedAt: `${on}T15:00:00.000Z`,
    correctsId: null,
    withdrawn: false
  });
  const number = Number(row.tag);

  determine(tree, number, rng, envelope, records);
  readings(tree, number, rng, envelope, records);
  lookUp(tree, rng, envelope, records);
  drill(tree, rng, envelope, records);

  const wildlife = STANDS[tree.stand]!.purpose === 'wildlife';
  if (tree.species === 'beech' && !wildlife && number % 3 === 0)
    records.push({
      ...envelope('2026-10-18'),
      kind: 'mark',
      purpose: 'take',
      reason: 'beech in decline, crowding a crop tree'
    });
  if (wildlife && number % 19 === 0)
    records.push({ ...envelope('2025-08-03'), kind: 'mark', purpose: 'keep', reason: 'den tree: cavity in use' });
  const tapped = STANDS[tree.stand]!.tappedSince !== null && isMaple(tree.species);
  if (tapped && number <= 36 && tree.dbhMm > 305) {
    const taps = tree.dbhMm > 460 && tree.ringMm > 1.2 ? 2 : 1;
    records.push({
      ...envelope('2026-11-15'),
      kind: 'decision',
      season: 2027,
      taps,
      suggested: taps,
      binding: 'size',
      reason: ''
    });
  }
  return records;
}

type Envelope = (on: string) => Pick<WorkRecord, 'id' | 'treeId' | 'on' | 'recordedAt' | 'correctsId' | 'withdrawn'>;

function determine(tree: TrueTree, number: number, rng: Rng, envelope: Envelope, records: WorkRecord[]): void {
  if (number % 29 === 17) return;
  const age: AgeClass = tree.dbhMm < 180 ? 'young' : 'grown';
  const evidence: Record<string, string> = {};
  for (const character of CHARACTERS) {
    const shares = character.seen[tree.species];
    if (!shares || character.strength === 'weak' || (character.age !== null && character.age !== age)) continue;
    evidence[character.id] = Object.entries(shares).reduce((a, b) => (b[1] > a[1] ? b : a))[0];
  }
  const maple = isMaple(tree.species);
  const open = maple && rng.uniform() < 0.04;
  const unsure = !open && rng.uniform() < 0.02;
  if (unsure) for (const clue of ['budShape', 'budColour', 'barkGrown', 'rub']) delete evidence[clue];
  records.push({
    ...envelope(number % 2 ? '2019-07-20' : '2014-08-12'),
    kind: 'determination',
    verdict: unsure && maple ? 'lookAgain' : open ? 'mapleOpen' : maple ? 'settled' : 'notMaple',
    species: tree.species,
    probability: unsure ? 0.6 : open ? 0.86 : 0.97,
    age,
    evidence,
    note: ''
  });
}

function readings(tree: TrueTree, number: number, rng: Rng, envelope: Envelope, records: WorkRecord[]): void {
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
        heightMm: 1300,
        confirmed: false,
        note: ''
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
      heightMm: 1300,
      confirmed: false,
      note: ''
    });
  }
}

function lookUp(tree: TrueTree, rng: Rng, envelope: Envelope, records: WorkRecord[]): void {
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
    note: ''
  });
}

/** Holes since 1998: on the sunny side at first, by a pattern later. The shavings come from the tree's true columns. */
function drill(tree: TrueTree, rng: Rng, envelope: Envelope, records: WorkRecord[]): void {
  const since = STANDS[tree.stand]!.tappedSince;
  if (since === null || !isMaple(tree.species) || tree.species === 'stripedMaple') return;
  const lean = Math.tan((rng.normal(0, DEFAULT_COLUMNS.grainSdDeg) * Math.PI) / 180);
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
        predictedClear: null
      };
      records.push(hole);
      const share = stainMet(columns, tree.ringMm, radius, season, hole);
      if (season >= 2021)
        records.push({
          ...envelope(hole.on),
          kind: 'shavings',
          tapholeId: hole.id,
          seen: share <= 0.02 ? 'pale' : share < 0.8 ? 'partly' : 'brown',
          brownShare: share > 0.02 && share < 0.8 ? Math.max(0.05, Math.round(share * 20) / 20) : null
        });
      columns.push({
        bearingDeg,
        season,
        column: drawColumn({ ...hole, buriedMm: 0 }, { index: 0, leftMm: 0, lean, buriedMm: 0 }, DEFAULT_COLUMNS, rng)
      });
    }
  }
}

/** Share of a new hole's path in the tree's true columns. */
function stainMet(
  columns: readonly { bearingDeg: number; season: number; column: Column }[],
  ringMm: number,
  radius: number,
  season: number,
  hole: { bearingDeg: number; heightMm: number; bitMm: number; depthMm: number }
): number {
  const round = 2 * Math.PI * radius;
  const overlaps = columns.flatMap(({ bearingDeg, season: drilled, column }) => {
    const buried = (season - drilled) * ringMm;
    const today = { ...column, fromDepthMm: buried, toDepthMm: buried + column.toDepthMm };
    const offset = shorterWay(column.leftMm + (((bearingDeg - hole.bearingDeg) * Math.PI) / 180) * radius, round);
    const overlap = overlapOf(today, offset, hole.heightMm, hole.bitMm, hole.depthMm);
    return overlap ? [overlap] : [];
  });
  return stainedShare(overlaps, hole.bitMm, hole.depthMm);
}

/** Two neighbours whose 2024 readings were written under each other's tags. */
function swapTags(trees: readonly Tree[], records: WorkRecord[]): void {
  const last = (tree: Tree) =>
    records.find((r) => r.treeId === tree.id && r.kind === 'reading' && r.on.startsWith('2024'));
  for (let i = 50; i + 1 < trees.length; i++) {
    const [a, b] = [last(trees[i]!), last(trees[i + 1]!)];
    if (a?.kind !== 'reading' || b?.kind !== 'reading' || Math.abs(a.valueMm - b.valueMm) < 150) continue;
    if (Math.max(a.valueMm, b.valueMm) > 700) continue;
    records[records.indexOf(a)] = { ...a, valueMm: b.valueMm, asWritten: b.asWritten };
    records[records.indexOf(b)] = { ...b, valueMm: a.valueMm, asWritten: a.asWritten };
    return;
  }
}

function pick(mix: Mix, rng: Rng): SpeciesId {
  let u = rng.uniform() * mix.reduce((sum, [, share]) => sum + share, 0);
  for (const [species, share] of mix) if ((u -= share) < 0) return species;
  return mix[0]![0];
}

/** Well-formed version 4 ids from the generator, so that the demo is the same everywhere. */
function uuidMaker(rng: Rng): () => string {
  const hex = (digits: number) =>
    Math.floor(rng.uniform() * 16 ** digits)
      .toString(16)
      .padStart(digits, '0');
  return () =>
    `${hex(8)}-${hex(4)}-4${hex(3)}-${(8 + Math.floor(rng.uniform() * 4)).toString(16)}${hex(3)}-${hex(6)}${hex(6)}`;
}

function round(value: number, digits: number): number {
  return Number(value.toFixed(digits));
}
