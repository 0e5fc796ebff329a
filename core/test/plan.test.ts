import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { planImport, readTable, type KnownTree, type ImportOptions } from '../src/exchange/index.ts';
import { questionReading, sizeExpectation, wholeColumnQuestion } from '../src/measure/index.ts';
import { DEFAULT_BUSH_SETTINGS, linesOf, type WorkRecord } from '../src/records/index.ts';

const today = '2026-11-23';
const options = (change: Partial<ImportOptions> = {}): ImportOptions => {
  let next = 0;
  return {
    today,
    now: '2026-11-23T10:00:00.000Z',
    settings: DEFAULT_BUSH_SETTINGS,
    origin: null,
    stands: [],
    tags: [],
    newTrees: true,
    sizes: null,
    makeId: () => `00000000-0000-4000-8000-${String((next += 1)).padStart(12, '0')}`,
    ...change
  };
};
const read = (text: string, more = {}) =>
  readTable(text, { today, defaultUnit: 'cm', told: { undatedOn: today }, ...more });

/** The bush after a plan was carried out. */
function carriedOut(plan: ReturnType<typeof planImport>, known: readonly KnownTree[] = []): KnownTree[] {
  const records = [...known.flatMap((k) => k.records), ...plan.records];
  const walk = [...known.map((k) => k.tree.id), ...plan.trees.map((tree) => tree.id)];
  return linesOf(walk, records).map((tree) => ({ tree, records: records.filter((r) => r.treeId === tree.id) }));
}

const FILE =
  'tag,species,girth,measured_on,east_m,north_m,holes\n' +
  '1,sugar maple,115 cm,2024-10-01,0,0,2024:180:95\n' +
  '2,maple,88 cm,2024-10-01,5,0,\n';

describe('a file held against a bush', () => {
  it('brings all of it into an empty one', () => {
    const plan = planImport(read(FILE), [], options());
    expect(plan.counts).toMatchObject({ newTrees: 2, readings: 2, holes: 1, determinations: 2, unchanged: 0 });
    expect(plan.trees.map((t) => [t.tag, t.eastM, t.positionQuality])).toEqual([
      ['1', 0, 'paced'],
      ['2', 5, 'paced']
    ]);
  });

  it('recognises what is here already, whatever was brought in before', () => {
    const row = fc.record({
      tag: fc.integer({ min: 1, max: 6 }),
      girth: fc.integer({ min: 30, max: 250 }),
      year: fc.integer({ min: 2000, max: 2025 }),
      hole: fc.option(fc.integer({ min: 0, max: 359 }), { nil: null })
    });
    const csv = (rows: readonly { tag: number; girth: number; year: number; hole: number | null }[]) =>
      read(
        `tag,girth_cm,measured_on,holes\n${rows.map((r) => `${r.tag},${r.girth},${r.year}-10-01,${r.hole === null ? '' : `${r.year}:${r.hole}:90`}`).join('\n')}`
      );
    fc.assert(
      fc.property(fc.array(row, { minLength: 1, maxLength: 12 }), fc.array(row, { maxLength: 12 }), (first, second) => {
        const make = options().makeId;
        const one = carriedOut(planImport(csv(first), [], options({ makeId: make })));
        const two = carriedOut(planImport(csv(second), one, options({ makeId: make })), one);
        // The first file again: everything in it that was good then is known now.
        const again = planImport(csv(first), two, options({ makeId: make }));
        expect(again.records).toEqual([]);
        expect(again.counts.newTrees + again.counts.grown).toBe(0);
      })
    );
  });

  it('takes a new reading of a known tree, and names one that contradicts the book', () => {
    const bush = carriedOut(planImport(read(FILE), [], options()));
    const plan = planImport(
      read('tag,girth_cm,measured_on\n1,118,2026-10-01\n2,91,2024-10-01\n2,92,2026-10-01\n'),
      bush,
      options()
    );
    expect(plan.counts).toMatchObject({ newTrees: 0, grown: 2, readings: 2 });
    expect(plan.bad).toMatchObject([{ line: 3, reason: expect.stringMatching(/another reading of that day/) }]);
  });

  it('moves a tree only to a place that is known as well or better', () => {
    const bush = carriedOut(planImport(read(FILE), [], options()));
    const moved = (quality: string) =>
      planImport(read(`tag,east_m,north_m,position_quality\n1,1,1,${quality}\n`), bush, options()).counts.places;
    expect(['surveyed', 'paced', 'phone'].map(moved)).toEqual([1, 1, 0]);
  });

  it('leaves unknown tags out where no new trees are wanted', () => {
    const bush = carriedOut(planImport(read(FILE), [], options()));
    const plan = planImport(read('tag,girth_cm\n1O,118\n'), bush, options({ newTrees: false }));
    expect(plan.records).toEqual([]);
    expect(plan.bad[0]!.reason).toMatch(/no tree of this bush has the tag "1O"/);
  });
});

describe('sizes that do not fit the company', () => {
  const inches = [9.5, 11, 12, 12.5, 13, 14, 14.5, 15, 16, 17, 18, 19, 21, 10, 12, 13.5];
  const column = (values: readonly number[], name: string) =>
    read(`tag,${name}\n${values.map((v, i) => `${i},${v.toFixed(1)}`).join('\n')}`);
  const causes = (values: readonly number[], name: string) =>
    planImport(column(values, name), [], options()).question?.explanations.map((e) => e.cause) ?? null;
  const cm = inches.map((v) => v * 2.54);

  it.each([
    ['as it should be', cm, 'diameter_cm', null],
    ['girths called diameters', cm.map((v) => v * Math.PI), 'diameter_cm', 'girthAsDiameter'],
    ['diameters called girths', cm, 'girth_cm', 'diameterAsGirth'],
    ['inches called centimetres', inches, 'diameter_cm', 'inchAsCm'],
    ['centimetres called inches', cm, 'diameter_in', 'cmAsInch']
  ] as const)('a column of %s', (_, values, name, asked) => {
    if (asked === null) expect(causes(values, name)).toBeNull();
    else expect(causes(values, name)).toContain(asked);
  });

  it('a column read as what it is has no question left', () => {
    const text = `tag,diameter_cm\n${cm.map((v, i) => `${i},${(v * Math.PI).toFixed(1)}`).join('\n')}`;
    const plan = planImport(read(text, { sizesAre: { quantity: 'girth' } }), [], options());
    expect(plan.question).toBeNull();
    const first = plan.records.find((r): r is Extract<WorkRecord, { kind: 'reading' }> => r.kind === 'reading')!;
    expect(first.quantity).toBe('girth');
  });

  it('a bush of thick trees is the measure of its own files', () => {
    const thick = cm.map((v) => v * 20);
    const sizes = sizeExpectation([...thick, ...thick]);
    expect(
      wholeColumnQuestion(
        thick.map((valueMm) => ({ quantity: 'diameter', valueMm })),
        sizes
      )
    ).toBeNull();
    expect(
      wholeColumnQuestion(
        thick.map((valueMm) => ({ quantity: 'diameter', valueMm })),
        null
      )
    ).not.toBeNull();
  });

  describe('at a first reading', () => {
    const sizes = sizeExpectation([...cm, ...cm].map((v) => v * 10));
    const ask = (dbhMm: number, tapped = false) =>
      questionReading({ year: 2026, dbhMm, method: 'diameterTape' }, null, [], { sizes, tapped })?.cause ?? null;
    it('asks about a girth written down as diameter, and lets a thick old tree pass', () => {
      expect(ask(1150)).toBe('girthAsDiameter');
      expect(ask(620)).toBeNull();
    });
    it('asks about a tapped sapling, and lets an untapped one pass', () => {
      expect(ask(140, true)).toBe('inchAsCm');
      expect(ask(140)).toBeNull();
    });
  });
});
