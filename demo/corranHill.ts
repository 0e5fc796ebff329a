import { outlineAreaHa } from '@baumkin/core/geometry';
import { seededRng } from '@baumkin/core/math';
import {
  bushRecordSchema,
  deriveTree,
  recordSchema,
  standSchema,
  swappedReadings,
  type BushRecord,
  type RecordInput,
  type SiteFeature,
  type Stand,
  type WorkRecord
} from '@baumkin/core/records';

import { envelopeOf, round, uuidMaker, type TaggedTree } from './draw.ts';
import { lifeOf } from './history.ts';
import { laidOpen } from './laidOpen.ts';
import { paced } from './paced.ts';
import { planned } from './planned.ts';
import { rounds } from './rounds.ts';
import { IN_SEASON, tappedAgain } from './inSeason.ts';
import { seasons } from './seasons.ts';
import { betweenTheTagged, cruise, heightsAndCrowns, inPassing, onTrunks, secondStems } from './survey.ts';
import { thinning } from './thinning.ts';
import { LANDSCAPE, STANDS } from './landscape.ts';
import { growTrees, type TrueTree } from './wood.ts';

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
  /** plots, seedling plots, kept plans, questions with their answers */
  readonly ofBush: BushRecord[];
}

/** The day on which the demo stands where nobody asks for another. */
const DEMO_DAY = '2026-11-23';

/** @param today ISO date until which its seasons are told */
export function corranHill(today = DEMO_DAY, seed = 1798): DemoBush {
  const rng = seededRng(seed);
  const uuid = uuidMaker(rng);
  const stands = STANDS.map((plan): Stand =>
    standSchema.parse({
      id: uuid(),
      name: plan.name,
      purpose: plan.purpose,
      areaHa: round(outlineAreaHa(plan.outline), 2),
      wetness: plan.wetness,
      sun: plan.sun ?? null,
      outline: plan.outline.map(([east, north]) => [east, north]),
      note: plan.note
    })
  );
  const { tagged: wood, between: untagged } = growTrees(rng);
  const trees = wood.map((tree, i): TaggedTree => ({
    id: uuid(),
    tag: String(i + 1),
    standId: stands[tree.stand]!.id,
    eastM: round(tree.eastM, 2),
    northM: round(tree.northM, 2)
  }));
  const records = wood.flatMap((tree, i) => lifeOf(tree, trees[i]!, rng, uuid));
  records.push(...heightsAndCrowns(wood, trees, rng, uuid));
  const features = LANDSCAPE.map((feature) => ({ id: uuid(), ...feature }));
  const plots = cruise(wood, stands, rng, uuid);
  records.push(...wood.flatMap((tree, i) => registered(tree, trees[i]!, uuid)));
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
  const thinned = thinning(wood, trees, rng, uuid);
  records.push(...thinned.records);
  swapTags(trees, records);
  records.push(...laidOpen(wood, trees, records, uuid));
  const walked = rounds(trees, records, uuid);
  records.push(...walked.records);
  if (today >= IN_SEASON) records.push(...tappedAgain(records, today, uuid));
  const lived = seasons(trees, records, stands, { uuid, today });
  records.push(...lived.records);
  const done = paced(records, trees, walk).map((record) => recordSchema.parse(record));
  return {
    stands,
    features,
    walk,
    records: [...done, ...planned(done, uuid).map((record) => recordSchema.parse(record))],
    ofBush: [...plots, ...thinned.ofBush, ...walked.ofBush, ...lived.ofBush].map((record) =>
      bushRecordSchema.parse(record)
    )
  };
}

/** Tagged and surveyed in 2009; the ledge was paced out later, and some of it only had a phone's word. */
function registered({ stand }: TrueTree, tree: TaggedTree, uuid: () => string): RecordInput[] {
  const ledge = STANDS[stand]!.purpose === 'wildlife';
  const envelope = envelopeOf(tree.id, uuid);
  const quality = !ledge ? 'surveyed' : Number(tree.tag) % 6 === 0 ? 'phone' : 'paced';
  return [
    { ...envelope('2009-05-02'), kind: 'entry', tag: tree.tag, standId: tree.standId },
    {
      ...envelope(ledge ? '2021-05-15' : '2009-05-02'),
      kind: 'place',
      eastM: tree.eastM,
      northM: tree.northM,
      quality,
      asTaken: quality === 'surveyed' ? 'total station' : ''
    }
  ];
}

/** Two neighbours that stand, whose 2024 readings were written under each other's tags. */
function swapTags(trees: readonly TaggedTree[], records: RecordInput[]): void {
  const cut = new Set(records.flatMap((r) => (r.kind === 'cut' ? r.treeId : [])));
  const last = (tree: TaggedTree) =>
    cut.has(tree.id)
      ? undefined
      : records.find((r) => r.treeId === tree.id && r.kind === 'reading' && r.on.startsWith('2024'));
  for (let i = 50; i + 1 < trees.length; i++) {
    const [a, b] = [last(trees[i]!), last(trees[i + 1]!)];
    if (a?.kind !== 'reading' || b?.kind !== 'reading' || Math.abs(a.valueMm - b.valueMm) < 150) continue;
    if (Math.max(a.valueMm, b.valueMm) > 700) continue;
    const [underA, underB] = [
      { ...a, valueMm: b.valueMm, asWritten: b.asWritten },
      { ...b, valueMm: a.valueMm, asWritten: a.asWritten }
    ];
    // Two whose readings show that they were mixed up.
    const stateWith = (now: typeof underA) => {
      const own = records.filter((r) => r.treeId === now.treeId && r.kind === 'reading');
      const readings = own.map((r) => recordSchema.parse(r.id === now.id ? now : r));
      return deriveTree(readings, { season: 2027, today: '2026-11-23' });
    };
    if (!swappedReadings(stateWith(underA), stateWith(underB))) continue;
    records[records.indexOf(a)] = underA;
    records[records.indexOf(b)] = underB;
    return;
  }
}
