import type { Rng } from '@baumkin/core/math';
import type { BushRecordInput, RecordInput } from '@baumkin/core/records';
import { SEEDLING_GROUPS, type SeedlingGroup } from '@baumkin/core/thinning';

import { envelopeOf, type TaggedTree } from './draw.ts';
import { STANDS } from './landscape.ts';
import type { TrueTree } from './wood.ts';

type Said = RecordInput extends infer R
  ? R extends RecordInput
    ? Omit<R, 'id' | 'treeId' | 'on' | 'recordedAt'>
    : never
  : never;

/** What was marked, looked at from below, cut and counted for the thinning of the Upper Bush. */
export function thinning(
  wood: readonly TrueTree[],
  trees: readonly TaggedTree[],
  rng: Rng,
  uuid: () => string
): { records: RecordInput[]; ofBush: BushRecordInput[] } {
  const dated = (on: string) => ({ id: uuid(), on, recordedAt: `${on}T16:00:00.000Z` });
  const upper = wood.flatMap((tree, i) =>
    tree.stand === 0 ? [{ ...tree, id: trees[i]!.id, tag: trees[i]!.tag }] : []
  );
  const of = (species: TrueTree['species']) => upper.filter((tree) => tree.species === species);
  const sound = of('sugarMaple').filter(({ dbhMm, crownClass }) => dbhMm > 300 && crownClass !== 'suppressed');
  const records: RecordInput[] = [];
  const say = (at: { id: string } | undefined, on: string, what: Said) => {
    if (at) records.push({ ...envelopeOf(at.id, uuid, 16)(on), ...what } as RecordInput);
  };

  const [split, braced] = [sound[9], sound[21]];
  say(split, '2026-10-18', {
    kind: 'mark',
    purpose: 'watch',
    reason: 'split fork, strong otherwise',
    reviewOn: '2027-10-01'
  });
  say(braced, '2026-10-18', {
    kind: 'mark',
    purpose: 'brace',
    reason: 'two stems over the footpath',
    reviewOn: '2026-11-01',
    leanDeg: 190
  });
  say(of('basswood')[1], '2026-10-18', {
    kind: 'mark',
    purpose: 'girdle',
    reason: 'for the woodpeckers, away from the path'
  });
  say(of('yellowBirch')[0], '2026-10-18', {
    kind: 'mark',
    purpose: 'keep',
    reason: 'the only old birch on the slope',
    keepFor: 'lastOfKind'
  });

  // A mark that clashes with a home over the footpath, a girdled tree, and a boundary tree.
  const byThePath = upper.reduce((a, b) => (b.northM < a.northM ? b : a));
  say(byThePath, '2026-10-18', {
    kind: 'mark',
    purpose: 'keep',
    reason: 'the tree of the first spout, 1921',
    keepFor: 'story'
  });
  say(byThePath, '2026-10-19', {
    kind: 'assessment',
    diebackPct: 30,
    crownClass: byThePath.crownClass,
    oldestOpenHoleYears: null,
    stressed: null,
    defects: [],
    hazards: ['deadTop'],
    wildlife: []
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
        { side: 'north' as const, treeId: null, species: 'beech' as const, dbhMm: 140, fate: 'take' as const },
        ...(k === 3
          ? [
              {
                side: 'south' as const,
                treeId: null,
                species: 'hophornbeam' as const,
                dbhMm: 120,
                fate: 'stands' as const
              }
            ]
          : [])
      ]
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

  const { standId } = trees[wood.findIndex((tree) => STANDS[tree.stand]!.purpose === 'syrup')]!;
  const ofBush: BushRecordInput[] = Array.from({ length: 9 }, (_, i): BushRecordInput => {
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
      ) as Record<SeedlingGroup, { knee: number; waist: number; above: number }>,
      browsed: Math.min(1, Math.max(0, Math.round(20 * rng.normal(0.45, 0.15)) / 20)),
      fenced: false
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
    guard: 'tube'
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
