import {
  crownRadius,
  declaration,
  defaultHeight,
  columnOf,
  drawHole,
  DEFAULT_COLUMNS,
  girthFromDiameter,
  insideBark,
  isMaple,
  judge,
  likelyAge,
  offset,
  outlineAreaHa,
  overlapOf,
  readShavings,
  seededRng,
  seedFrom,
  SHIPPED_TABLE,
  shorterWay,
  stainedShare,
  TREE_SIZE_SIGMA,
  type Column,
  type BushRecord,
  type PlotRecord,
  type Rng,
  type SiteFeature,
  standSchema,
  type Stand,
  type WorkRecord
} from '@baumkin/core';

import { betweenTheTagged, marked, thinning } from './thinning.ts';
import { growTrees, LANDSCAPE, STANDS, type TrueTree } from './wood.ts';

/**
 * Corran Hill Common: an invented village-owned sugarbush on an invented hillside. Everything here is made up by a
 * seeded generator and is for the demo; no outside value rests on it.
 */
export interface DemoBush {
  readonly stands: Stand[];
  readonly features: SiteFeature[];
  /** ids of the trees in walking order */
  readonly walk: string[];
  readonly records: WorkRecord[];
  /** plots, seedling plots and kept plans */
  readonly ofBush: BushRecord[];
}

const LAST_AUTUMN = 2026;
const FIRST_SEASON = 1998;
const PATTERN_SINCE = 2012;
/** The year in which nobody tapped. */
const SKIPPED = 2020;

export function corranHill(seed = 1798): DemoBush {
  const rng = seededRng(seed);
  const uuid = uuidMaker(rng);
  const stands = STANDS.map((plan): Stand =>
    standSchema.parse({
      id: uuid(),
      name: plan.name,
      purpose: plan.purpose,
      areaHa: round(outlineAreaHa(plan.outline), 2),
      wetness: plan.wetness,
      outline: plan.outline.map(([east, north]) => [east, north]),
      note: plan.note
    })
  );
  const { tagged: wood, between: untagged } = growTrees(rng);
  const trees = wood.map((tree, i): BookTree => ({
    id: uuid(),
    tag: String(i + 1),
    standId: stands[tree.stand]!.id,
    eastM: round(tree.eastM, 2),
    northM: round(tree.northM, 2)
  }));
  const records = wood.flatMap((tree, i) => lifeOf(tree, trees[i]!, rng, uuid));
  swapTags(trees, records);
  records.push(...statures(wood, trees, rng, uuid));
  const features = LANDSCAPE.map((feature) => ({ id: uuid(), ...feature }));
  const plots = cruise(wood, stands, rng, uuid);
  records.push(...wood.flatMap((tree, i) => intoTheBook(tree, trees[i]!, uuid)));
  const stems = secondStems(wood, trees, rng, uuid);
  const walk = trees.flatMap(({ id }) => [id, ...stems.flatMap((stem) => (stem.base === id ? [stem.id] : []))]);
  const passing = inPassing(wood, trees, rng, uuid);
  records.push(...stems.flatMap((stem) => stem.records), ...passing);
  for (const record of passing)
    if (record.kind === 'entry') walk.splice(walk.indexOf(record.afterId!) + 1, 0, record.treeId);
  records.push(...onTrunks(wood, trees, rng, uuid));
  const between = betweenTheTagged(
    untagged,
    trees.filter((_, i) => wood[i]!.stand === 0),
    uuid
  );
  records.push(...between.records);
  for (const { id, after } of between.placed) walk.splice(walk.indexOf(after) + 1, 0, id);
  const thinned = thinning(wood, trees, stands, rng, uuid);
  records.push(...thinned.records);
  return { stands, features, walk, records, ofBush: [...plots, ...thinned.ofBush] };
}

/** What was noted on some of the tapped trunks, and the holes from before the book of some old ones. */
function onTrunks(wood: readonly TrueTree[], trees: readonly BookTree[], rng: Rng, uuid: () => string): WorkRecord[] {
  return wood.flatMap((tree, i): WorkRecord[] => {
    if (STANDS[tree.stand]!.tappedSince === null || tree.dbhMm < 320 || i % 9 !== 3) return [];
    const envelope = envelopeOf(trees[i]!.id, uuid);
    const what = (['limb', 'seam', 'root', 'nail'] as const)[Math.floor(i / 9) % 4]!;
    const noted: WorkRecord[] = [
      {
        ...envelope('2026-03-02'),
        kind: 'trunkFeature',
        what,
        bearingDeg: Math.floor(360 * rng.uniform()),
        heightMm: what === 'root' ? 620 : what === 'limb' ? 1480 : 1150,
        note: ''
      }
    ];
    if (tree.dbhMm > 420 && i % 18 === 3)
      noted.push({
        ...envelope('2026-03-02'),
        kind: 'scars',
        many: 3,
        bearingDeg: 180,
        spreadDeg: 30,
        heightMm: null,
        fromSeason: 1985,
        toSeason: 1997,
        bitMm: 11.1125,
        depthMm: 50.8,
        note: 'from before the book'
      });
    return noted;
  });
}

/** A tree of the demo while its records are being made up. */
export interface BookTree {
  readonly id: string;
  readonly tag: string;
  readonly standId: string;
  readonly eastM: number;
  readonly northM: number;
}

const envelopeOf =
  (treeId: string, uuid: () => string): Envelope =>
  (on) => ({ id: uuid(), treeId, on, recordedAt: `${on}T15:00:00.000Z`, correctsId: null, withdrawn: false });

/** Tagged and surveyed in 2009; the ledge was paced out later, and some of it only had a phone's word. */
function intoTheBook({ stand }: TrueTree, tree: BookTree, uuid: () => string): WorkRecord[] {
  const ledge = STANDS[stand]!.purpose === 'wildlife';
  const envelope = envelopeOf(tree.id, uuid);
  const quality = !ledge ? 'surveyed' : Number(tree.tag) % 6 === 0 ? 'phone' : 'paced';
  return [
    { ...envelope('2009-05-02'), ...UNDER_A_TAG, kind: 'entry', tag: tree.tag, standId: tree.standId },
    {
      ...envelope(ledge ? '2021-05-15' : '2009-05-02'),
      kind: 'place',
      eastM: tree.eastM,
      northM: tree.northM,
      quality,
      accuracyM: null,
      asTaken: quality === 'surveyed' ? 'total station' : ''
    }
  ];
}

const UNDER_A_TAG = { tagged: true, stemOf: null, afterId: null, note: '' } as const;

/** Red maples by the brook came up again from old stumps: some have a second stem. */
function secondStems(
  wood: readonly TrueTree[],
  trees: readonly BookTree[],
  rng: Rng,
  uuid: () => string
): { id: string; base: string; records: WorkRecord[] }[] {
  return wood.flatMap((tree, i) => {
    if (STANDS[tree.stand]!.purpose !== 'mixed' || tree.species !== 'redMaple' || i % 7 !== 3) return [];
    const base = trees[i]!;
    const id = uuid();
    const envelope = envelopeOf(id, uuid);
    const dbhMm = Math.round(tree.dbhMm * (0.5 + 0.4 * rng.uniform()));
    const place = offset(base, 360 * rng.uniform(), 0.6);
    const records: WorkRecord[] = [
      {
        ...envelope('2024-10-12'),
        ...UNDER_A_TAG,
        kind: 'entry',
        tag: `${base.tag}b`,
        standId: base.standId,
        stemOf: base.id
      },
      {
        ...envelope('2024-10-12'),
        kind: 'place',
        eastM: round(place.eastM, 2),
        northM: round(place.northM, 2),
        quality: 'surveyed',
        accuracyM: null,
        asTaken: `on the base of ${base.tag}`
      },
      {
        ...envelope('2024-10-12'),
        ...declaration(tree.species, 'one stump with the first stem')
      },
      {
        ...envelope('2024-10-12'),
        kind: 'reading',
        quantity: 'diameter',
        valueMm: dbhMm,
        asWritten: `${dbhMm / 10} cm`,
        method: 'diameterTape',
        heightMm: 1300,
        confirmed: false,
        note: ''
      }
    ];
    return [{ id, base: base.id, records }];
  });
}

/** Three beeches without a tag, noted beside a crop tree of the ledge. */
function inPassing(wood: readonly TrueTree[], trees: readonly BookTree[], rng: Rng, uuid: () => string): WorkRecord[] {
  const crop = wood.findIndex((tree) => STANDS[tree.stand]!.purpose === 'wildlife' && tree.species === 'sugarMaple');
  const by = trees[crop]!;
  return [35, 160, 285].flatMap((bearingDeg, k): WorkRecord[] => {
    const id = uuid();
    const envelope = envelopeOf(id, uuid);
    const distanceM = round(3 + 2.5 * rng.uniform(), 1);
    const place = offset(by, bearingDeg, distanceM);
    const dbhMm = 10 * Math.round(8 + 12 * rng.uniform());
    return [
      {
        ...envelope('2025-08-03'),
        ...UNDER_A_TAG,
        kind: 'entry',
        tag: `by ${by.tag} ${'abc'[k]}`,
        tagged: false,
        standId: by.standId,
        afterId: by.id
      },
      {
        ...envelope('2025-08-03'),
        kind: 'place',
        eastM: round(place.eastM, 2),
        northM: round(place.northM, 2),
        quality: 'paced',
        accuracyM: null,
        asTaken: `${distanceM} m at ${bearingDeg}° from ${by.tag}`
      },
      {
        ...envelope('2025-08-03'),
        ...declaration('beech', 'seen in leaf')
      },
      {
        ...envelope('2025-08-03'),
        kind: 'reading',
        quantity: 'diameter',
        valueMm: dbhMm,
        asWritten: `about ${dbhMm / 10} cm`,
        method: 'hug',
        heightMm: 1300,
        confirmed: false,
        note: ''
      }
    ];
  });
}

/** A summer student measured some heights, and the crowns of a few of those. */
function statures(wood: readonly TrueTree[], trees: readonly BookTree[], rng: Rng, uuid: () => string): WorkRecord[] {
  return wood.flatMap((tree, i): WorkRecord[] => {
    if (tree.stand !== 0 || i % 11 !== 4) return [];
    const reach = () => round(Math.max(0.5, crownRadius(tree.dbhMm, tree.species) * rng.normal(1, 0.18)), 1);
    return [
      {
        id: uuid(),
        treeId: trees[i]!.id,
        on: '2025-07-12',
        recordedAt: '2025-07-12T16:00:00.000Z',
        correctsId: null,
        withdrawn: false,
        kind: 'heightAndCrown',
        heightM: round(defaultHeight(tree.dbhMm) * rng.normal(1, 0.06), 1),
        crownRadiiM: i % 2 ? [reach(), reach(), reach(), reach()] : null,
        note: ''
      }
    ];
  });
}

/** The ledge was never counted tree by tree: twelve circles of 15 m, on points that were drawn beforehand. */
function cruise(wood: readonly TrueTree[], stands: readonly Stand[], rng: Rng, uuid: () => string): PlotRecord[] {
  const ledge = STANDS.findIndex((plan) => plan.purpose === 'wildlife');
  const [west, south, east, north] = STANDS[ledge]!.box;
  const radiusM = 15;
  return Array.from({ length: 12 }, (_, i) => {
    const eastM = west + radiusM + rng.uniform() * (east - west - 2 * radiusM);
    const northM = south + radiusM + rng.uniform() * (north - south - 2 * radiusM);
    const inside = wood.filter((tree) => Math.hypot(tree.eastM - eastM, tree.northM - northM) <= radiusM);
    return {
      id: uuid(),
      on: '2025-08-03',
      recordedAt: `2025-08-03T${String(8 + i).padStart(2, '0')}:00:00.000Z`,
      correctsId: null,
      withdrawn: false,
      kind: 'plot',
      standId: stands[ledge]!.id,
      name: String(i + 1),
      centre: { eastM: round(eastM, 1), northM: round(northM, 1) },
      design: { kind: 'fixed', radiusM },
      trees: inside.map((tree) => ({ species: tree.species, dbhMm: Math.round(tree.dbhMm / 5) * 5 })),
      note: ''
    };
  });
}

function diameterIn(tree: TrueTree, year: number): number {
  return Math.max(20, tree.dbhMm - 2 * tree.ringMm * (LAST_AUTUMN + 0.75 - year));
}

/** Everything that was recorded of a tree. */
function lifeOf(tree: TrueTree, row: BookTree, rng: Rng, uuid: () => string): WorkRecord[] {
  const records: WorkRecord[] = [];
  const envelope = envelopeOf(row.id, uuid);
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
      ...marked('take', 'beech in decline, crowding a crop tree')
    });
  if (wildlife && number % 19 === 0)
    records.push({
      ...envelope('2025-08-03'),
      kind: 'mark',
      ...marked('keep', 'den tree: cavity in use', { keepFor: 'home' })
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
      binding: 'size',
      reason: ''
    });
  }
  return records;
}

type Envelope = (on: string) => Pick<WorkRecord, 'id' | 'treeId' | 'on' | 'recordedAt' | 'correctsId' | 'withdrawn'>;

function determine(tree: TrueTree, number: number, rng: Rng, envelope: Envelope, records: WorkRecord[]): void {
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
    evidence: kept,
    note: ''
  });
}

const FEW_TWIGS = ['arrangement', 'twigStoutness', 'twigColour', 'barkGrown', 'barkYoung'];
const BARK_ALONE = ['arrangement', 'barkGrown', 'barkYoung', 'barkOld'];

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
    peeledPct: null,
    peelFresh: false,
    defects: drawn > 40 ? [{ kind: 'canker', bearingDeg: 15 * Math.floor(24 * rng.uniform()), heightMm: 1100 }] : [],
    hazards: drawn > 55 ? ['deadTop'] : [],
    wildlife: drawn > 62 ? ['woodpeckers'] : [],
    note: ''
  });
}

/** Holes since 1998: on the sunny side at first, by a pattern later. The shavings come from the tree's true columns. */
function drill(tree: TrueTree, rng: Rng, envelope: Envelope, records: WorkRecord[]): void {
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
      const share = stainMet(columns, tree.ringMm, radius, season, drilled);
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
function swapTags(trees: readonly BookTree[], records: WorkRecord[]): void {
  const last = (tree: BookTree) =>
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
