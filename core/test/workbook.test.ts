import { describe, expect, it } from 'vitest';

import { readTable, readWorkbook, tableText } from '../src/exchange/index.ts';
import { OFFICE_OPEN, OPEN_DOCUMENT } from './workbooks.ts';

/* Spreadsheets, unpacked: after ECMA-376 part 1 and OpenDocument 1.3 part 3. */

const partsOf = (of: Readonly<Record<string, string>>) => new Map(Object.entries(of));
const TABLE = [
  ['Our trees & what they are'],
  [],
  ['Tag', 'Species', '', 'DBH', 'Date'],
  ['1', 'sugar maple', '', '36.3', '2024-06-01'],
  ['A-2', 'red maple', '', '41.5', '2024-06-02']
];

describe.each([
  ['office open', OFFICE_OPEN],
  ['open document', OPEN_DOCUMENT]
])('a workbook, %s', (_, parts) => {
  it('gives its cells as one sees them: words, figures without what binary fractions add, days', () => {
    // 45444 days after 30 December 1899 is 1 June 2024; the empty sheet is not spoken of.
    expect(readWorkbook(partsOf(parts))).toEqual([{ name: 'Trees', rows: TABLE }]);
  });

  it('is read like a table: the title above its heading is passed over, lines are those of the sheet', () => {
    const [sheet] = readWorkbook(partsOf(parts));
    const file = readTable(tableText(sheet!.rows), { today: '2026-11-23', defaultUnit: 'cm' });
    expect(file.bad).toEqual([]);
    expect(file.statements).toMatchObject([
      { line: 4, tag: '1', species: 'sugarMaple', reading: { valueMm: 363, on: '2024-06-01' } },
      { line: 5, tag: 'A-2', species: 'redMaple', reading: { valueMm: 415, on: '2024-06-02' } }
    ]);
  });
});

describe('a workbook that is none, or more than one of trees', () => {
  const read = (parts: Readonly<Record<string, string>>) => () => readWorkbook(partsOf(parts));
  it('is refused in a sentence', () => {
    expect(read({})).toThrow(/no spreadsheet that I can read/);
    expect(read({ ...OFFICE_OPEN, 'xl/worksheets/sheet2.xml': '<worksheet/>' })).toThrow(/nothing in this spreadsheet/);
    expect(read({ 'content.xml': '<!DOCTYPE a [<!ENTITY b "c">]><a/>' })).toThrow(/document type/);
    expect(read({ 'content.xml': '<a><b>' })).toThrow(/well-formed/);
    const far = OFFICE_OPEN['xl/worksheets/sheet2.xml']!.replace('r="A5"', 'r="ZZZ5"');
    expect(read({ ...OFFICE_OPEN, 'xl/worksheets/sheet2.xml': far })).toThrow(/beyond row/);
    const endless = OPEN_DOCUMENT['content.xml']!.replace(
      '<table:table-row><table:table-cell office:value-type="float" office:value="1">',
      '<table:table-row table:number-rows-repeated="99999999"><table:table-cell office:value-type="float" office:value="1">'
    );
    expect(read({ 'content.xml': endless })).toThrow(/beyond row|more cells/);
  });
  it('days can be counted from 1904', () => {
    const parts = {
      ...OFFICE_OPEN,
      'xl/workbook.xml': OFFICE_OPEN['xl/workbook.xml']!.replace('<workbookPr/>', '<workbookPr date1904="1"/>')
    };
    // 1462 days lie between the two beginnings.
    expect(readWorkbook(partsOf(parts))[0]!.rows[3]![4]).toBe('2028-06-02');
  });
});
