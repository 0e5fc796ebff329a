import { strToU8, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';

import { readWorkbook } from '@baumkin/core/exchange';
import { OFFICE_OPEN, OPEN_DOCUMENT } from '../../core/test/workbooks.ts';
import { isOldWorkbook, isPacked, unpackWorkbook } from '../src/lib/workers/unpack.ts';

const packed = (parts: Readonly<Record<string, string>>) =>
  zipSync(Object.fromEntries(Object.entries(parts).map(([name, text]) => [name, strToU8(text)])));

describe('a packed workbook', () => {
  it.each([
    ['office open', OFFICE_OPEN],
    ['open document', OPEN_DOCUMENT]
  ])('%s: its cells come out, and nothing else is unpacked', (_, parts) => {
    const bytes = packed({ ...parts, 'xl/media/picture.bin': 'x'.repeat(1000), 'docProps/app.xml': '<a/>' });
    expect(isPacked(bytes)).toBe(true);
    const unpacked = unpackWorkbook(bytes);
    expect([...unpacked.keys()].sort()).toEqual(Object.keys(parts).sort());
    expect(readWorkbook(unpacked)[0]!.rows).toHaveLength(5);
  });

  it('that grows without end is stopped early, one that is damaged is refused', () => {
    const bomb = packed({ 'content.xml': `<a>${'0'.repeat(60_000_000)}</a>` });
    expect(bomb.length).toBeLessThan(100_000);
    const before = process.memoryUsage().arrayBuffers;
    expect(() => unpackWorkbook(bomb)).toThrow(/unpacks to far more/);
    expect(process.memoryUsage().arrayBuffers - before).toBeLessThan(40_000_000);
    const whole = packed(OFFICE_OPEN);
    const broken = whole.slice(0, 200);
    broken.fill(0x55, 60, 190);
    expect(() => readWorkbook(unpackWorkbook(broken))).toThrow(/damaged|no spreadsheet/);
    expect(isOldWorkbook(new Uint8Array([0xd0, 0xcf, 0x11, 0xe0, 0xa1]))).toBe(true);
    expect(isPacked(strToU8('tag,species'))).toBe(false);
  });
});
