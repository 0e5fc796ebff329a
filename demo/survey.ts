import { offset } from '@baumkin/core/geometry';
import type { Rng } from '@baumkin/core/math';
import { declaration, type BushRecordInput, type RecordInput, type Stand } from '@baumkin/core/records';
import { crownRadius, defaultHeight } from '@baumkin/core/stand';

import { envelopeOf, round, type TaggedTree } from './draw.ts';
import { STANDS } from './landscape.ts';
import type { TrueTree } from './wood.ts';

/** What was noted on some of the tapped trunks, and the holes from before the book of some old ones. */
export function onTrunks(
  wood: readonly TrueTree[],
  trees: readonly TaggedTree[],
  rng: Rng,
  uuid: () => string
): RecordInput[] {
  return wood.flatMap((tree, i): RecordInput[] => {
    if (STANDS[tree.stand]!.tappedSince === null || tree.dbhMm < 320 || i % 9 !== 3) return [];
    const envelope = envelopeOf(trees[i]!.id, uuid);
    const what = (['limb', 'seam', 'root', 'nail'] as const)[Math.floor(i / 9) % 4]!;
    const noted: RecordInput[] = [
      {
        ...envelope('2026-03-02'),
        kind: 'trunkFeature',
        what,
        bearingDeg: Math.floor(360 * rng.uniform()),
        heightMm: what === 'root' ? 620 : what === 'limb' ? 1480 : 1150
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

/** Red maples by the brook came up again from old stumps: some have a second stem. */
export function secondStems(
  wood: readonly TrueTree[],
  trees: readonly TaggedTree[],
  rng: Rng,
  uuid: () => string
): { id: string; base: string; records: RecordInput[] }[] {
  return wood.flatMap((tree, i) => {
    if (STANDS[tree.stand]!.purpose !== 'mixed' || tree.species !== 'redMaple' || i % 7 !== 3) return [];
    const base = trees[i]!;
    const id = uuid();
    const envelope = envelopeOf(id, uuid);
    const dbhMm = Math.round(tree.dbhMm * (0.5 + 0.4 * rng.uniform()));
    const place = offset(base, 360 * rng.uniform(), 0.6);
    const records: RecordInput[] = [
      {
        ...envelope('2024-10-12'),
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
        heightMm: 1300
      }
    ];
    return [{ id, base: base.id, records }];
  });
}

/** Three beeches without a tag, noted beside a crop tree of the ledge. */
export function inPassing(
  wood: readonly TrueTree[],
  trees: readonly TaggedTree[],
  rng: Rng,
  uuid: () => string
): RecordInput[] {
  const crop = wood.findIndex((tree) => STANDS[tree.stand]!.purpose === 'wildlife' && tree.species === 'sugarMaple');
  const by = trees[crop]!;
  return [35, 160, 285].flatMap((bearingDeg, k): RecordInput[] => {
    const id = uuid();
    const envelope = envelopeOf(id, uuid);
    const distanceM = round(3 + 2.5 * rng.uniform(), 1);
    const place = offset(by, bearingDeg, distanceM);
    const dbhMm = 10 * Math.round(8 + 12 * rng.uniform());
    return [
      {
        ...envelope('2025-08-03'),
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
        heightMm: 1300
      }
    ];
  });
}

/** A summer student measured some heights, and the crowns of a few of those. */
export function heightsAndCrowns(
  wood: readonly TrueTree[],
  trees: readonly TaggedTree[],
  rng: Rng,
  uuid: () => string
): RecordInput[] {
  return wood.flatMap((tree, i): RecordInput[] => {
    if (tree.stand !== 0 || i % 11 !== 4) return [];
    const reach = () => round(Math.max(0.5, crownRadius(tree.dbhMm, tree.species) * rng.normal(1, 0.18)), 1);
    return [
      {
        ...envelopeOf(trees[i]!.id, uuid, 16)('2025-07-12'),
        kind: 'heightAndCrown',
        heightM: round(defaultHeight(tree.dbhMm) * rng.normal(1, 0.06), 1),
        crownRadiiM: i % 2 ? [reach(), reach(), reach(), reach()] : null
      }
    ];
  });
}

/** The ledge was never counted tree by tree: twelve circles of 15 m, on points that were drawn beforehand. */
export function cruise(
  wood: readonly TrueTree[],
  stands: readonly Stand[],
  rng: Rng,
  uuid: () => string
): BushRecordInput[] {
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
      kind: 'plot',
      standId: stands[ledge]!.id,
      name: String(i + 1),
      centre: { eastM: round(eastM, 1), northM: round(northM, 1) },
      design: { kind: 'fixed', radiusM },
      trees: inside.map((tree) => ({ species: tree.species, dbhMm: Math.round(tree.dbhMm / 5) * 5 }))
    };
  });
}

/** A student's survey of the summer of 2025: what has no tag, but takes light. */
export function betweenTheTagged(
  untagged: readonly TrueTree[],
  tagged: readonly TaggedTree[],
  uuid: () => string
): { records: RecordInput[]; placed: { id: string; after: string }[] } {
  const records: RecordInput[] = [];
  const placed: { id: string; after: string }[] = [];
  for (const { species, eastM, northM, dbhMm } of untagged) {
    const away = (tree: TaggedTree) => Math.hypot(tree.eastM - eastM, tree.northM - northM);
    const by = tagged.reduce((best, tree) => (away(tree) < away(best) ? tree : best));
    const id = uuid();
    placed.push({ id, after: by.id });
    const envelope = envelopeOf(id, uuid, 12);
    records.push(
      {
        ...envelope('2025-07-21'),
        kind: 'entry',
        tag: `u${placed.length}`,
        tagged: false,
        standId: by.standId,
        afterId: by.id
      },
      {
        ...envelope('2025-07-21'),
        kind: 'place',
        eastM,
        northM,
        quality: 'paced',
        accuracyM: 0.6,
        asTaken: `from ${by.tag}`
      },
      { ...envelope('2025-07-21'), ...declaration(species, 'seen in leaf') },
      {
        ...envelope('2025-07-21'),
        kind: 'reading',
        quantity: 'diameter',
        valueMm: dbhMm,
        asWritten: `${dbhMm / 10} cm`,
        method: 'calipers',
        heightMm: 1300
      }
    );
  }
  return { records, placed };
}
