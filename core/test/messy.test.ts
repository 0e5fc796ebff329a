import { describe, expect, it } from 'vitest';

import {
  groupFaults,
  LikelyTags,
  linesLeftOut,
  namedIn,
  planImport,
  readDate,
  orderOf,
  readStatements,
  speciesInWord,
  type ImportPlan,
  type ImportTold,
  type KnownTree
} from '../src/exchange/index.ts';
import { mixedColumn } from '../src/measure/index.ts';
import { DEFAULT_BUSH_SETTINGS, type WorkRecord } from '../src/records/index.ts';
import { seededRng } from '../src/math/index.ts';
import { IN_HOLES, IN_TREES, messyHoles, messyTrees } from './messyFile.ts';

/* A steward's spreadsheets, with faults in known numbers: each is found, none is stored unasked, one round mends them. */

const TODAY = '2026-11-23';
let made = 0;
const makeId = () => `00000000-0000-4000-8000-${String(++made).padStart(12, '0')}`;

function plan(
  text: string,
  told: ImportTold,
  known: readonly KnownTree[] = [],
  newTrees: boolean | null = null
): ImportPlan {
  const file = readStatements(text, { today: TODAY, defaultUnit: 'cm', told });
  const named = namedIn(file, told);
  return planImport(
    file,
    known.filter(({ tree }) => named.has(tree.tag.toLowerCase())),
    {
      today: TODAY,
      now: `${TODAY}T12:00:00.000Z`,
      settings: DEFAULT_BUSH_SETTINGS,
      origin: null,
      stands: [],
      tags: known.map(({ tree }) => tree.tag),
      sizes: null,
      newTrees,
      told,
      makeId
    }
  );
}
const many = ({ bad }: ImportPlan, fault: string, word: string | null = null) =>
  groupFaults(bad).find((group) => group.fault === fault && (word === null || group.word === word))?.rows.length ?? 0;

/** A bush after a plan was stored. */
function stored(before: readonly KnownTree[], { trees, records }: ImportPlan): KnownTree[] {
  const byTree = new Map<string, WorkRecord[]>();
  for (const record of records) byTree.set(record.treeId, [...(byTree.get(record.treeId) ?? []), record]);
  return [
    ...before.map(({ tree, records: had }) => ({ tree, records: [...had, ...(byTree.get(tree.id) ?? [])] })),
    ...trees.map((tree) => ({ tree, records: byTree.get(tree.id) ?? [] }))
  ];
}

const messy = messyTrees();
const ANSWERS: ImportTold = {
  species: { sm: 'sugarMaple', acsa3: 'sugarMaple', '?': 'open', 'hrd mpl': 'sugarMaple' },
  undatedOn: '2024-10-01',
  twoSizes: 'first',
  otherLot: 'girthAsDiameter'
};

describe('a messy file of trees', () => {
  const first = plan(messy.text, {});

  it('is asked about by kind, with how often each comes', () => {
    for (const [word, times] of Object.entries({ ...IN_TREES.short, ...IN_TREES.strange }))
      // What stands twice in the file counts twice.
      expect(many(first, 'speciesWord', word)).toBeGreaterThanOrEqual(times);
    expect(many(first, 'undated')).toBe(IN_TREES.undated);
    // Whatever else is open of a line, it is asked now and not in a second round.
    expect(many(first, 'twoSizes')).toBe(IN_TREES.twoSizes);
    expect(many(first, 'otherLot')).toBeGreaterThanOrEqual(IN_TREES.girthsAsDiameters - 1);
    const reasons = first.bad.map(({ reason }) => reason);
    expect(reasons.filter((reason) => /future/.test(reason))).toHaveLength(IN_TREES.future);
    expect(reasons.filter((reason) => /cannot read/.test(reason))).toHaveLength(IN_TREES.noSize);
  });

  it('stores nothing of a line that is asked about', () => {
    const asked = new Set(first.bad.map(({ line }) => line));
    const tags = messy.text.split('\r\n').map((line) => line.split(';')[0]!);
    const askedTags = new Set([...asked].map((line) => tags[line - 1]!));
    const clean = first.trees.filter(({ tag }) => askedTags.has(tag));
    // A tag whose first line is clean and whose second is asked about is there by its first.
    expect(clean.length).toBeLessThanOrEqual(IN_TREES.twoSizes);
    expect(linesLeftOut(first.bad)).toBe(asked.size);
  });

  const settled = { ...ANSWERS, otherLot: undefined, twoSizes: undefined };
  it('shows girths among diameters, line by line', () => {
    const open = plan(messy.text, settled);
    const found = new Set(open.bad.filter(({ fault }) => fault === 'otherLot').map(({ line }) => line));
    const right = [...found].filter((line) => messy.girthLines.has(line)).length;
    expect(open.mixed!.causes[0]).toBe('girthAsDiameter');
    expect(right).toBeGreaterThanOrEqual(IN_TREES.girthsAsDiameters - 1);
    expect(found.size - right).toBeLessThanOrEqual(IN_TREES.twoSizes);
    expect(open.mixed!.theseMm / open.mixed!.othersMm).toBeCloseTo(Math.PI, 0);
  });

  it('needs one round: what is left afterwards is to be mended in the file', () => {
    const second = plan(messy.text, ANSWERS);
    expect(new Set(second.bad.map(({ fault }) => fault))).toEqual(new Set(['cell']));
    expect(second.bad).toHaveLength(IN_TREES.future + IN_TREES.noSize);
    expect(second.counts.newTrees).toBe(IN_TREES.trees - IN_TREES.future - IN_TREES.noSize);
    expect(second.counts.readings).toBe(second.counts.newTrees);
    const girths = second.records.filter((r) => r.kind === 'reading' && r.quantity === 'girth');
    expect(girths.length).toBeGreaterThanOrEqual(IN_TREES.girthsAsDiameters - 1);
    const undated = second.records.filter((r) => r.kind === 'reading' && r.on === '2024-10-01');
    expect(undated).toHaveLength(IN_TREES.undated);
    // Nothing has got today's day but the trees' own entry into the book and species without a day.
    expect(second.records.filter((r) => r.kind === 'reading' && r.on === TODAY)).toEqual([]);
    expect(second.counts.remarks).toBeGreaterThan(40);
  });

  it('changes nothing when it comes again', () => {
    const known = stored([], plan(messy.text, ANSWERS));
    const again = plan(messy.text, ANSWERS, known);
    expect(again.records).toEqual([]);
    expect(again.trees).toEqual([]);
  });
});

describe('a messy file of holes', () => {
  const known = stored([], plan(messy.text, ANSWERS));
  const before = known.length;
  const first = plan(messyHoles(), {}, known);
  const away = IN_TREES.future + IN_TREES.noSize;

  it('makes no tree of a mistyped tag, and says which one it may be', () => {
    expect(first.trees).toEqual([]);
    const strange = first.bad.filter(({ fault }) => fault === 'strangeTag');
    // Tags of trees that the first file could not bring are strange as well.
    expect(strange.length).toBeGreaterThanOrEqual(IN_HOLES.mistyped);
    expect(strange.filter(({ reason }) => /Is it \d+\?/.test(reason)).length).toBeGreaterThanOrEqual(
      IN_HOLES.mistyped - 1
    );
    expect(before).toBe(IN_TREES.trees - away);
  });

  it('makes no hole twice and none in a season to come', () => {
    expect(first.bad.filter(({ reason }) => /no season/.test(reason))).toHaveLength(IN_HOLES.future);
    const twice = first.bad.filter(({ reason }) => /stands in line \d+ already/.test(reason));
    expect(twice.length).toBe(IN_HOLES.twice);
    const holes = first.records.filter((r) => r.kind === 'taphole');
    expect(new Set(holes.map((r) => (r.kind === 'taphole' ? r.bitMm.toFixed(2) : '')))).toEqual(
      new Set(['7.94', '11.11'])
    );
    expect(new Set(holes.map((r) => (r.kind === 'taphole' ? r.bearingDeg : -1))).size).toBe(8);
  });

  it('takes the tag that was meant once it is told', () => {
    const strange = first.bad.find(({ reason }) => /Is it \d+\?/.test(reason))!;
    const meant = /Is it (\d+)\?/.exec(strange.reason)![1]!;
    const told = plan(messyHoles(), { tags: { [strange.word!.toLowerCase()]: meant } }, known);
    expect(told.counts.holes).toBe(first.counts.holes + 1);
  });
});

describe('against the book', () => {
  const known = stored([], plan('tag,species,dbh,date\n1,sugar maple,30,2024-05-01\n2,red maple,31,2024-05-01', {}));
  const text = 'tag,species\n1,red maple\n2,red maple';
  it('another species is a question, and stays one until somebody answers', () => {
    const asked = plan(text, {}, known);
    expect(asked.bad).toMatchObject([{ fault: 'otherSpecies', word: 'red maple, in the book sugar maple' }]);
    expect(asked.counts.determinations).toBe(0);
    expect(plan(text, { speciesBy: 'book' }, known)).toMatchObject({ bad: [], counts: { determinations: 0 } });
    expect(plan(text, { speciesBy: 'file' }, known)).toMatchObject({ bad: [], counts: { determinations: 1 } });
  });
  it('two sizes of one day are one tree or two, as the steward says', () => {
    const twice = 'tag,dbh,date\n7,30,2024-05-01\n7,45,2024-05-01';
    expect(many(plan(twice, {}), 'twoSizes')).toBe(1);
    expect(plan(twice, { twoSizes: 'first' }).trees.map(({ tag }) => tag)).toEqual(['7']);
    expect(plan(twice, { twoSizes: 'twoTrees' }).trees.map(({ tag }) => tag)).toEqual(['7', '7-2']);
  });
});

describe('columns', () => {
  const columns = (text: string, told: ImportTold = {}) =>
    readStatements(text, { today: TODAY, defaultUnit: 'cm', told }).table!.columns.map(({ role, by }) => [role, by]);
  it('are recognised by what stands in them where the heading is strange', () => {
    const text =
      'Nummer,Art,Stamm,wann,was noch\nA1,sugar maple,14 1/2",3 May 2024,x\nA2,A. rubrum,11",4 May 2024,y\nA3,beech,12 1/4",5 May 2024,z';
    expect(columns(text)).toEqual([
      ['tag', 'content'],
      ['species', 'content'],
      ['diameter', 'content'],
      ['measuredOn', 'content'],
      [null, null]
    ]);
  });
  it('tell what the steward says, and may be kept as notes', () => {
    const told: ImportTold = { columns: { what: { role: 'girth', unit: 'in' }, colour: { role: 'note', unit: null } } };
    const file = readStatements('tag,what,colour\n1,40,red\n', {
      today: TODAY,
      defaultUnit: 'cm',
      told: { ...told, undatedOn: TODAY }
    });
    expect(file.statements).toMatchObject([{ reading: { quantity: 'girth', valueMm: 1016 }, notes: ['colour: red'] }]);
    // Whoever has no such heading is not spoken of.
    expect(columns('tag,dbh\n1,30', told).map(([role]) => role)).toEqual(['tag', 'diameter']);
  });
  it('a file without any tag says so', () => {
    expect(() => columns('a,b\nx y z,q\nr,s\nt,u')).toThrow(/tag/);
  });
});

describe('words and days as people write them', () => {
  it('a word of a list names a species, or is proposed', () => {
    const said = (word: string) => speciesInWord(word);
    expect(said('A. rubrum')).toEqual({ said: 'redMaple', sure: true });
    expect(said('hard maple')).toEqual({ said: 'sugarMaple', sure: true });
    expect(said('ACSA3')).toEqual({ said: 'sugarMaple', sure: false });
    expect(said('?')).toEqual({ said: 'open', sure: false });
    expect(said('maple sp.')).toEqual({ said: 'mapleOpen', sure: true });
    expect(said('hrd mpl')).toBeNull();
  });
  it('a date is read in the order of its file, and asked about where none is clear', () => {
    const on = (written: string, order: 'dmy' | 'mdy' | null = null) => readDate(written, order, TODAY);
    expect(on('2024-5-3').on).toBe('2024-05-03');
    expect(on('31.10.2024').on).toBe('2024-10-31');
    expect(on('10/31/24').on).toBe('2024-10-31');
    expect(on('3 May 2024 10:30').on).toBe('2024-05-03');
    expect(on('May 3rd, 97').on).toBe('1997-05-03');
    expect(on('03/05/2024')).toEqual({ on: null, why: 'ambiguous' });
    expect([on('03/05/2024', 'dmy').on, on('03/05/2024', 'mdy').on]).toEqual(['2024-05-03', '2024-03-05']);
    expect(on('2024').why).toBe('year');
    expect(on('31/02/2024').why).toBe('none');
    expect(orderOf(['03/05/2024', '03/25/2024'])).toBe('mdy');
    expect(orderOf(['03/05/2024', '04/06/2024'])).toBeNull();
    expect(orderOf(['13/05/2024', '03/25/2024'])).toBeNull();
  });
  it('a mistyped tag has one that it may mean, or several and then none', () => {
    const likely = (written: string, tags: readonly string[]) => new LikelyTags(tags).of(written);
    expect(likely('1O2', ['101', '102', '103'])).toBe('102');
    expect(likely('1022', ['1002', '1023'])).toBeNull();
    expect(likely('120', ['102', '77'])).toBe('102');
    expect(likely('99', ['102', '77'])).toBeNull();
  });
});

describe('words that are names in the language of the program', () => {
  it('are words like others, in tags, species and headings', () => {
    const text =
      'tag,species,constructor,__proto__\nconstructor,constructor,a,b\n__proto__,toString,c,d\nvalueOf,maple,e,f';
    const first = plan(text, {});
    expect(first.bad.map(({ fault, word }) => [fault, word])).toEqual([
      ['speciesWord', 'constructor'],
      ['speciesWord', 'tostring']
    ]);
    expect(() => structuredClone(first)).not.toThrow();
    expect(first.trees.map(({ tag }) => tag)).toEqual(['valueOf']);
    const known = stored([], plan('tag\n1\n2\n3\nvalueOf', {}));
    const strange = plan(
      'tag,species\n1,maple\n2,maple\nconstructor,maple\n__proto__,maple',
      { tags: { x: '1' } },
      known
    );
    expect(strange.bad.map(({ fault }) => fault)).toEqual(['strangeTag', 'strangeTag']);
  });
});

describe('another lot in a column', () => {
  const sizes = (many: number, factor: number, wrong: number, seed: number) => {
    const rng = seededRng(seed);
    return Array.from({ length: many }, (_, i) => ({
      quantity: 'diameter' as const,
      valueMm: 340 * Math.exp(rng.normal(0, 0.25)) * (i < wrong ? factor : 1),
      lot: i < wrong ? 'a' : String(i % 20)
    }));
  };
  it('is found for each cause, in files of every size', () => {
    for (const [cause, factor] of [
      ['girthAsDiameter', Math.PI],
      ['inchAsCm', 1 / 2.54]
    ] as const)
      for (const [many, wrong] of [
        [60, 8],
        [300, 40],
        [1000, 200]
      ] as const) {
        const found = mixedColumn(sizes(many, factor, wrong, many))!;
        expect(found.causes).toContain(cause);
        const right = found.which.filter((i) => i < wrong).length;
        expect([right >= 0.97 * wrong, found.which.length - right <= Math.max(1, 0.02 * many)]).toEqual([true, true]);
      }
  });
  it('is not invented: of 200 clean files hardly one is asked about', () => {
    const asked = Array.from({ length: 200 }, (_, seed) => mixedColumn(sizes(200, 1, 0, 1000 + seed))).filter(
      (found) => found !== null
    );
    expect(asked.length).toBeLessThanOrEqual(2);
  });
});
