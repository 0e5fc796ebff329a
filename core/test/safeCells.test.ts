import fc from 'fast-check';
import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';

import { unguard, writeRows } from '../src/exchange/safeCells.ts';

/* What goes into a spreadsheet runs nothing there, and comes back as it was. The signs are those of OWASP, "CSV Injection". */

const SIGNS = /^[=+\-@\t\r＝＋－＠]/;
const NUMBER = /^-?\d+(?:[.,]\d+)?$/;

/** The cells that a spreadsheet sees which takes a sign for the one that divides cells; quotes bind only where a cell begins with one. */
function seen(text: string, divides: string): string[] {
  return Papa.parse<string[]>(text, { delimiter: divides, newline: '\n' }).data.flat();
}
const runs = (cell: string) => SIGNS.test(cell.replace(/^[ "]+/, '')) && !NUMBER.test(cell);

const nasty = fc
  .array(fc.constantFrom('=', '+', '-', '@', ';', '\t', '\n', '"', "'", ' ', '1', 'a', '|', ',', '＝'), {
    maxLength: 12
  })
  .map((signs) => signs.join(''));

describe('a table for spreadsheets', () => {
  it.each([
    "-1+cmd|' /C calc'!A0",
    '=HYPERLINK("http://x")',
    '+49 171',
    'a;=1+1',
    'a;"=1+1"',
    'x\n@SUM(1)',
    '\t=1',
    '－1+1',
    '-a'
  ])('runs nothing of %j, whatever divides cells there', (cell) => {
    for (const divides of [',', ';', '\t'])
      expect(
        seen(
          writeRows([
            ['tag', 'note', 'more'],
            ['1', cell, 'end']
          ]),
          divides
        ).filter(runs)
      ).toEqual([]);
  });

  it('leaves numbers numbers', () => {
    expect(writeRows([['-40.00345', '-4', '-0,5', '12']])).toBe('-40.00345,-4,"-0,5",12\n');
  });

  it('runs nothing and gives every cell back, whatever stands in it', () => {
    fc.assert(
      fc.property(fc.array(nasty, { minLength: 1, maxLength: 4 }), (row) => {
        const text = writeRows([row]);
        const back = Papa.parse<string[]>(text, { delimiter: ',', newline: '\n' }).data[0]!.map(unguard);
        expect(back).toEqual(row);
        for (const divides of [';', '\t']) expect(seen(text, divides).filter(runs)).toEqual([]);
      }),
      { numRuns: 3000, seed: 20261201 }
    );
  });

  it('takes a cell of many megabytes in one go', () => {
    const long = `${';"'.repeat(2_000_000)}=`;
    // Not a measure of speed: a pattern that goes back and forth would take hours.
    const begun = performance.now();
    expect(unguard(long).length).toBe(long.length);
    expect(performance.now() - begun).toBeLessThan(60_000);
  });
});
