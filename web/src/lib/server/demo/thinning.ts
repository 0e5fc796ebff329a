import {
  declaration,
  type BushRecord,
  type Mark,
  type Rng,
  type SeedlingsRecord,
  type Stand,
  type WorkRecord
} from '@baumkin/core';
import { SEEDLING_GROUPS, type MarkPurpose } from '@baumkin/core/thinning';

import type { BookTree } from './corranHill.ts';
import { STANDS, type TrueTree } from './wood.ts';

/** What a mark says beside its envelope. */
export function marked(
  purpose: MarkPurpose,
  reason: string,
  more: Partial<Pick<Mark, 'reviewOn' | 'leanDeg' | 'keepFor'>> = {}
): Pick<Mark, 'purpose' | 'reason' | 'reviewOn' | 'leanDeg' | 'keepFor' | 'despite'> {
  return { purpose, reason, reviewOn: null, leanDeg: null, keepFor: null, despite: false, ...more };
}

/** A student's survey of the summer of 2025: what has no tag, but takes light. */
export function betweenTheTagged(
  untagged: readonly TrueTree[],
  tagged: readonly BookTree[],
  uuid: () => string
): { records: WorkRecord[]; placed: { id: string; after: string }[] } {
  const records: WorkRecord[] = [];
  const placed: { id: string; after: string }[] = [];
  for (const { species, eastM, northM, dbhMm } of untagged) {
    const away = (tree: BookTree) => Math.hypot(tree.eastM - eastM, tree.northM - northM);
    const by = tagged.reduce((best, tree) => (away(tree) < away(best) ? tree : best));
    const id = uuid();
    placed.push({ id, after: by.id });
    const on = '2025-07-21';
    const envelope = () => ({
      id: uuid(),
      treeId: id,
      on,
      recordedAt: `${on}T12:00:00.000Z`,
      correctsId: null,
      withdrawn: false
    });
    records.push(
      {
        ...envelope(),
        kind: 'entry',
        tag: `u${placed.length}`,
        tagged: false,
        standId: by.standId,
        stemOf: null,
        afterId: by.id,
        note: ''
      },
      { ...envelope(), kind: 'place', eastM, northM, quality: 'paced', accuracyM: 0.6, asTaken: `from ${by.tag}` },
      { ...envelope(), ...declaration(species, 'seen in leaf') },
      {
        ...envelope(),
        kind: 'reading',
        quantity: 'diameter',
        valueMm: dbhMm,
        asWritten: `${dbhMm / 10} cm`,
        method: 'calipers',
        heightMm: 1300,
        confirmed: false,
        note: ''
      }
    );
  }
  return { records, placed };
}

/** What was marked, looked at from below, cut and counted for the thinning of the Upper Bush. */
export function thinning(
  wood: readonly TrueTree[],
  trees: readonly BookTree[],
  stands: readonly Stand[],
  rng: Rng,
  uuid: () => string
): { records: WorkRecord[]; ofBush: BushRecord[] } {
  const dated = (on: string) => ({
    id: uuid(),
    on,
    recordedAt: `${on}T16:00:00.000Z`,
    correctsId: null,
    withdrawn: false
  });
  const upper = wood.flatMap((tree, i) =>
    tree.stand === 0 ? [{ ...tree, id: trees[i]!.id, tag: trees[i]!.tag }] : []
  );
  const of = (species: TrueTree['species']) => upper.filter((tree) => tree.species === species);
  const sound = of('sugarMaple').filter(({ dbhMm, crownClass }) => dbhMm > 300 && crownClass !== 'suppressed');
  const records: WorkRecord[] = [];
  const say = (at: { id: string } | undefined, on: string, what: object) => {
    if (at) records.push({ ...dated(on), treeId: at.id, ...what } as WorkRecord);
  };

  const [split, braced] = [sound[9], sound[21]];
  say(split, '2026-10-18', {
    kind: 'mark',
    ...marked('watch', 'split fork, strong otherwise', { reviewOn: '2027-10-01' })
  });
  say(braced, '2026-10-18', {
    kind: 'mark',
    ...marked('brace', 'two stems over the footpath', { reviewOn: '2026-11-01', leanDeg: 190 })
  });
  say(of('basswood')[1], '2026-10-18', {
    kind: 'mark',
    ...marked('girdle', 'for the woodpeckers, away from the path')
  });
  say(of('yellowBirch')[0], '2026-10-18', {
    kind: 'mark',
    ...marked('keep', 'the only old birch on the slope', { keepFor: 'lastOfKind' })
  });

  // Two things that contradict each other over the footpath, a tree that dies on its feet, and one that is not ours alone.
  const byThePath = upper.reduce((a, b) => (b.northM < a.northM ? b : a));
  say(byThePath, '2026-10-18', {
    kind: 'mark',
    ...marked('keep', 'the tree of the first spout, 1921', { keepFor: 'story' })
  });
  say(byThePath, '2026-10-19', {
    kind: 'assessment',
    diebackPct: 30,
    crownClass: byThePath.crownClass,
    oldestOpenHoleYears: null,
    stressed: null,
    peeledPct: null,
    peelFresh: false,
    defects: [],
    hazards: ['deadTop'],
    wildlife: [],
    note: ''
  });
  say(of('beech')[8], '2025-02-08', {
    kind: 'cut',
    what: 'girdled',
    by: 'Odo',
    damaged: [],
    reviewOn: '2026-07-01',
    note: 'for the woodpeckers'
  });
  say(of('sugarMaple').at(-1), '2026-10-18', {
    kind: 'tapBan',
    reasons: ['boundary'],
    until: null,
    note: 'stands on the line to the neighbour'
  });

  for (const k of [3, 14, 30])
    say(sound[k], '2026-10-18', { kind: 'cropChoice', choice: 'crop', reason: 'runs first every year' });
  say(sound[40], '2026-10-18', { kind: 'cropChoice', choice: 'veto', reason: 'stands where the sap road turns' });

  // Two were looked up at from below: there are beech poles about without a tag.
  for (const k of [3, 14])
    say(sound[k], '2026-10-19', {
      kind: 'crownCard',
      north: 'blocked',
      east: 'free',
      south: k === 3 ? 'blocked' : 'free',
      west: null,
      blockers: [
        { side: 'north', treeId: null, species: 'beech', dbhMm: 140, fate: 'take' },
        ...(k === 3 ? [{ side: 'south', treeId: null, species: 'hophornbeam', dbhMm: 120, fate: 'stands' }] : [])
      ],
      note: ''
    });

  // Three ashes went last winter, with a scar on one that stays.
  of('whiteAsh')
    .slice(0, 3)
    .forEach((ash, k) =>
      say(ash, '2026-01-24', {
        kind: 'cut',
        what: k === 2 ? 'fallen' : 'felled',
        by: k === 2 ? '' : 'Odo and a hired faller',
        damaged: k === 0 ? [sound[5]!.id] : [],
        reviewOn: null,
        note: k === 2 ? 'came down in the January wind' : 'firewood stacked by the shed'
      })
    );

  const standId = stands.find((_, i) => STANDS[i]!.purpose === 'syrup')!.id;
  const ofBush: BushRecord[] = Array.from({ length: 9 }, (_, i): SeedlingsRecord => {
    const count = (mean: number) => Math.max(0, Math.round(rng.normal(mean, 1 + mean / 3)));
    const means = { maple: [14, 2.2, 0.4], beech: [3, 3, 1.5], other: [2, 0.6, 0.2], invasive: [0, 0.1, 0] };
    return {
      ...dated('2026-08-09'),
      kind: 'seedlings',
      standId,
      name: `S${i + 1}`,
      radiusM: 2,
      counts: Object.fromEntries(
        SEEDLING_GROUPS.map((group) => {
          const [knee, waist, above] = means[group].map(count) as [number, number, number];
          return [group, { knee, waist, above }];
        })
      ) as SeedlingsRecord['counts'],
      browsed: Math.min(1, Math.max(0, Math.round(20 * rng.normal(0.45, 0.15)) / 20)),
      fenced: false,
      note: ''
    };
  });
  ofBush.push({
    ...dated('2026-08-09'),
    kind: 'planting',
    standId,
    name: 'Along the sap road',
    species: 'sugarMaple',
    year: 2019,
    many: 24,
    alive: 19,
    heightM: 2.1,
    guard: 'tube',
    note: ''
  });
  ofBush.push({
    ...dated('2026-10-20'),
    kind: 'thinningPlan',
    standId,
    name: 'As walked with Tomke',
    taken: of('beech')
      .slice(0, 7)
      .map(({ id }) => id),
    note: 'the beech first, then look again'
  });
  return { records, ofBush };
}
