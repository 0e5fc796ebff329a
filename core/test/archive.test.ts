import Ajv2020 from 'ajv/dist/2020.js';
import addFormats from 'ajv-formats';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { tries } from '../../testing/long.ts';
import { z } from 'zod';
import {
  archiveSchema,
  dataPackage,
  formatOf,
  headUnderIds,
  readArchive,
  readGeoJson,
  readGpx,
  readStatements,
  readTable,
  TABLES,
  UnreadableFile,
  writeTable,
  writeTemplate,
  type Archive,
  type TreeOut
} from '../src/exchange/index.ts';
import {
  declaration,
  DEFAULT_BUSH_SETTINGS,
  deriveTree,
  recordSchema,
  underIds,
  type Tree,
  type WorkRecord,
  tagKey
} from '../src/records/index.ts';
import { options, origin, id, tag, species } from './openFormatsSupport.ts';

/** A record of any kind, drawn from its own schema's limits. */
const recordDrawn = (n: number, treeId: string, authorId: string) => {
  const base = {
    id: id(n),
    treeId,
    authorId,
    on: '2025-10-01',
    recordedAt: '2025-10-01T10:00:00.000Z',
    correctsId: null,
    withdrawn: false
  };
  const mm = (min: number, max: number) => fc.double({ min, max, noNaN: true });
  return fc.oneof(
    fc
      .record({ valueMm: mm(20, 3000), heightMm: mm(0, 5000), asWritten: fc.string({ maxLength: 80 }) })
      .map((drawn) => ({
        ...base,
        ...drawn,
        kind: 'reading' as const,
        quantity: 'girth' as const,
        method: 'girthTape' as const,
        confirmed: false,
        note: ''
      })),
    fc
      .record({ bearingDeg: mm(0, 359.99), heightMm: mm(0, 5000), bitMm: mm(3, 25), depthMm: mm(5, 150) })
      .map((drawn) => ({
        ...base,
        ...drawn,
        kind: 'taphole' as const,
        season: 2000 + (n % 20),
        predictedClear: null,
        strategy: null
      })),
    fc.record({ reason: fc.string({ maxLength: 500 }), leanDeg: fc.option(mm(0, 359.99)) }).map((drawn) => ({
      ...base,
      ...drawn,
      kind: 'mark' as const,
      purpose: 'watch' as const,
      despite: false,
      keepFor: null,
      reviewOn: '2028-10-01'
    })),
    // Trees that are named inside a record.
    fc.option(mm(10, 3000)).map((dbhMm) => ({
      ...base,
      kind: 'crownCard' as const,
      north: 'blocked' as const,
      east: 'free' as const,
      south: null,
      west: null,
      blockers: [
        { side: 'north' as const, treeId, species: null, dbhMm, fate: 'stands' as const },
        { side: 'north' as const, treeId: null, species: 'beech' as const, dbhMm, fate: 'take' as const }
      ],
      note: ''
    })),
    fc.string({ maxLength: 80 }).map((by) => ({
      ...base,
      kind: 'cut' as const,
      what: 'felled' as const,
      by: by.trim(),
      damaged: [treeId],
      reviewOn: null,
      note: ''
    }))
  );
};

const archiveDrawn: fc.Arbitrary<Archive> = fc.uniqueArray(tag, { selector: tagKey, maxLength: 5 }).chain((tags) =>
  fc
    .tuple(
      ...tags.map((_, i) =>
        fc
          .array(fc.integer(), { maxLength: 3 })
          .chain((list) => fc.tuple(...list.map((__, k) => recordDrawn(1000 + 10 * i + k, id(i), id(900)))))
      )
    )
    .map((records) => ({
      format: 'baumkin-bush',
      version: 2,
      writtenAt: '2026-11-23T10:00:00.000Z',
      bush: { name: 'Some Hill', settings: DEFAULT_BUSH_SETTINGS, origin },
      people: [{ id: id(900), name: 'Somebody' }],
      stands: [],
      features: [],
      baseMap: null,
      walk: tags.map((_, i) => id(i)),
      records: [
        ...tags.map((name, i) => ({
          id: id(100 + i),
          treeId: id(i),
          authorId: id(900),
          on: '2020-01-01',
          recordedAt: '2020-01-01T10:00:00.000Z',
          correctsId: null,
          withdrawn: false,
          kind: 'entry' as const,
          tag: name,
          tagged: true,
          standId: null,
          stemOf: null,
          afterId: null,
          note: ''
        })),
        ...records.flat()
      ],
      bushRecords: []
    }))
);

describe('the archive of a bush', () => {
  it('reads back equal, and its published JSON Schema takes it', () => {
    const ajv = new Ajv2020({ strict: false });
    addFormats(ajv);
    const accepts = ajv.compile(z.toJSONSchema(archiveSchema, { io: 'input', unrepresentable: 'any' }));
    fc.assert(
      fc.property(archiveDrawn, (archive) => {
        const text = JSON.stringify(archive);
        expect(formatOf(text)).toBe('archive');
        expect(readArchive(text)).toEqual(archive);
        expect([accepts(JSON.parse(text)), accepts.errors]).toEqual([true, null]);
      }),
      tries(40)
    );
    expect(accepts({ format: 'baumkin-bush', version: 1 })).toBe(false);
  });

  it('under other ids it is the same bush', () => {
    const renamed = (old: string) => old.replace('0000-4000', '0000-5000');
    fc.assert(
      fc.property(archiveDrawn, (archive) => {
        const other = {
          ...headUnderIds(archive, renamed),
          records: archive.records.map((record) => underIds(record, renamed)),
          bushRecords: archive.bushRecords.map((record) => underIds(record, renamed))
        };
        expect(JSON.stringify(other).replaceAll('0000-5000', '0000-4000')).toBe(JSON.stringify(archive));
        expect(readArchive(JSON.stringify(other)).walk).toEqual(archive.walk.map(renamed));
      }),
      tries(20)
    );
  });

  const [sound] = fc.sample(
    archiveDrawn.filter((a) => a.records.length > 2 && a.walk.length > 1),
    { numRuns: 1, seed: 7 }
  );
  it.each([
    ['a tree that is not in it', (a: Archive) => ({ ...a, walk: a.walk.slice(1) }), /not in it/],
    ['a record twice', (a: Archive) => ({ ...a, records: [...a.records, a.records[0]!] }), /comes twice/],
    ['a writer whom nobody knows', (a: Archive) => ({ ...a, people: [] }), /written by nobody/],
    [
      'one tag on two trees',
      (a: Archive) => ({ ...a, records: a.records.map((r) => (r.kind === 'entry' ? { ...r, tag: 'X' } : r)) }),
      /two trees/
    ],
    [
      'a correction of nothing',
      (a: Archive) => ({ ...a, records: a.records.map((r, i) => (i === 0 ? { ...r, correctsId: id(5555) } : r)) }),
      /corrects one/
    ],
    ['another form', (a: Archive) => ({ ...a, version: 3 }), /damaged at version/]
  ])('%s is refused', (_, spoil, message) => {
    expect(() => readArchive(JSON.stringify(spoil(sound!)))).toThrow(message);
  });

  it('what is none is refused', () => {
    expect(() => readArchive('[1')).toThrow(/JSON/);
    expect(() => readArchive('{"format":"other"}')).toThrow(/not the archive/);
  });
});

describe('tables', () => {
  const tree = (n: number, name: string): Tree => ({
    id: id(n),
    tag: name,
    tagged: true,
    standId: null,
    stemOf: null,
    walkOrder: n,
    eastM: null,
    northM: null,
    positionQuality: null,
    positionAccuracyM: null
  });

  const written = (name: string, trees: readonly TreeOut[]) =>
    writeTable(
      TABLES.find((table) => table.name === name)!,
      trees
    );

  it('of readings and tapholes read back the same', () => {
    fc.assert(
      fc.property(
        fc
          .array(fc.integer(), { minLength: 1, maxLength: 4 })
          .chain((l) => fc.tuple(...l.map((_, k) => recordDrawn(k, id(0), id(900))))),
        (drawn) => {
          // One reading a day, as the tape allows.
          const records = drawn.map((r, i): WorkRecord => ({ ...recordSchema.parse(r), on: `2025-10-0${i + 1}` }));
          const state = deriveTree(records, { season: 2027, today: '2026-11-23' });
          const out = [{ tree: tree(0, '17'), stand: null, state }];
          const readings = readTable(written('readings', out), options);
          const plausible = records.flatMap((r) => (r.kind === 'reading' && r.valueMm / Math.PI < 2500 ? [r] : []));
          expect(readings.statements.map((s) => s.reading?.valueMm)).toEqual(
            plausible.map((r) => expect.closeTo(r.valueMm, 2))
          );
          expect(readings.statements.map((s) => s.reading?.heightMm)).toEqual(
            plausible.map((r) => expect.closeTo(r.heightMm, 1))
          );
          const holes = readTable(written('tapholes', out), options);
          expect(holes.bad).toEqual([]);
          expect(holes.statements.flatMap((s) => s.holes)).toEqual(
            state.tapholes.map(({ season, bearingDeg, heightMm, bitMm, depthMm }) => ({
              season,
              bearingDeg: expect.closeTo(bearingDeg % 360, 2),
              heightMm: expect.closeTo(heightMm, 1),
              bitMm: expect.closeTo(bitMm, 2),
              depthMm: expect.closeTo(depthMm, 2)
            }))
          );
        }
      )
    );
  });

  it('of species read back the same', () => {
    const said = fc.record({
      species: fc.option(species, { nil: null }),
      on: fc.integer({ min: 10, max: 28 }).map((day) => `2024-07-${day}`),
      note: fc.string({ maxLength: 60 })
    });
    fc.assert(
      fc.property(said, ({ species: name, on, note }) => {
        const record: WorkRecord = {
          ...declaration(name, note),
          id: id(1),
          treeId: id(0),
          on,
          recordedAt: `${on}T10:00:00.000Z`,
          correctsId: null,
          withdrawn: false
        };
        const state = deriveTree([record], { season: 2027, today: '2026-11-23' });
        const file = readTable(written('determinations', [{ tree: tree(0, '17'), stand: null, state }]), options);
        expect(file.bad).toEqual([]);
        expect(file.statements).toMatchObject([
          { tag: '17', species: name, mapleOpen: name === null, determinedOn: on }
        ]);
      })
    );
  });

  it.each(TABLES)('the template of $name is read without a word', ({ columns }) => {
    const file = readStatements(writeTemplate(columns), options);
    expect([file.bad, file.statements.length]).toEqual([[], 1]);
  });

  it('their descriptor is one by the Table Schema library, and the library reads the tables by it', async () => {
    const { Schema } = (await import('tableschema')).default;
    for (const { schema, path } of dataPackage('Some Hill', '2026-11-23T10:00:00Z').resources) {
      const { name, fields } = { name: path, fields: schema.fields.map((field) => field.name) };
      const checked = await Schema.load(schema, { strict: true });
      const columns = TABLES.find((t) => `${t.name}.csv` === name)!.columns;
      expect([checked.valid, checked.fieldNames]).toEqual([true, fields]);
      expect(() => checked.castRow(columns.map((column) => column.example))).not.toThrow();
    }
  });
});

describe('hostile files', () => {
  it('twenty megabytes of nothing, of one line and of one cell end soon', () => {
    const begun = performance.now();
    const big = 20_000_000;
    expect(() => readTable('x'.repeat(big), options)).toThrow(UnreadableFile);
    expect(() => readTable(`tag\n${'1\n'.repeat(big / 2)}`, options)).toThrow(/more than 25000 rows/);
    const oneCell = readTable(`tag,species\n1,${'y'.repeat(big)}`, options);
    expect(oneCell.bad).toHaveLength(1);
    expect(oneCell.bad[0]!.reason.length).toBeLessThan(200);
    expect(() => readGpx(`<gpx>${' '.repeat(big)}`, options)).toThrow(UnreadableFile);
    // Not a measure of speed: a reader that goes back and forth would take hours.
    expect(performance.now() - begun).toBeLessThan(60_000);
  });

  it('another encoding, formula cells and numbers that are none change nothing unseen', () => {
    expect(() => readTable('t\u0000a\u0000g\u0000', options)).toThrow(/not a text file/);
    expect(readTable('tag,diameter\n1,NaN\n2,Infinity\n3,-30\n4,1e9', options).statements).toEqual([]);
    const out = writeTemplate([{ name: 'tag', type: 'string', explains: '', example: '=HYPERLINK("x")' }]);
    expect(out.split('\n')[1]).toMatch(/^"?'=/);
  });
});

it('a file with a property name of its own for every point is refused while it is read, before its table is built', () => {
  const features = Array.from({ length: 20_000 }, (_, i) => ({
    type: 'Feature',
    geometry: { type: 'Point', coordinates: [10 + i / 1e6, 50] },
    properties: { [`a property name that no other point has ${i}`]: 1 }
  }));
  const text = JSON.stringify({ type: 'FeatureCollection', features });
  expect(text.length).toBeGreaterThan(2_300_000);
  const before = process.memoryUsage().heapUsed;
  expect(() => readGeoJson(text, options)).toThrow(/more than \d+ properties/);
  // Twenty thousand by twenty thousand cells would be hundreds of megabytes at least.
  expect(process.memoryUsage().heapUsed - before).toBeLessThan(300e6);
});
