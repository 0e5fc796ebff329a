import { declaration, type WorkRecord } from '@baumkin/core/records';
import { describe, expect, it } from 'vitest';

import { device, whole } from './device.ts';
import { trees } from './server.ts';

/* The tapping round on a page that stays open while others decide and drill. */

const { TappingRound } = await import('../../src/lib/place/tappingRound.svelte.ts');

/** Something that another device sent. */
function elsewhere(treeId: string, fields: object): void {
  device.server.stored.push({
    id: crypto.randomUUID(),
    treeId,
    on: '2026-11-23',
    recordedAt: `2026-11-23T10:00:0${device.server.stored.length}.000Z`,
    correctsId: null,
    withdrawn: false,
    authorId: crypto.randomUUID(),
    ...fields
  } as unknown as WorkRecord);
}

describe('a round that is looked at', () => {
  it('has the trees that others decide meanwhile, and the holes that they drill', async () => {
    const bush = await whole();
    const round = new TappingRound(bush);
    await round.follow();
    expect(round.isRead).toBe(true);
    const { id } = trees.find((row) => row.tagged !== false)!;
    elsewhere(id, declaration('sugarMaple', 'seen in leaf'));
    elsewhere(id, {
      kind: 'reading',
      quantity: 'diameter',
      valueMm: 400,
      asWritten: '40 cm',
      method: 'diameterTape',
      heightMm: 1300,
      confirmed: true,
      note: ''
    });
    const line = () => round.lines.find(({ row }) => row.id === id);
    const before = line()?.taps ?? 0;

    elsewhere(id, { kind: 'decision', season: 2027, taps: before + 1, suggested: 1, binding: 'size', reason: '' });
    await bush.refresh();
    await round.follow();
    expect([line()!.taps, line()!.left]).toEqual([before + 1, before + 1]);

    elsewhere(id, {
      kind: 'taphole',
      season: 2027,
      bearingDeg: 90,
      heightMm: 1200,
      bitMm: 7.94,
      depthMm: 38,
      predictedClear: null,
      strategy: null
    });
    await bush.refresh();
    await round.follow();
    expect(line()!.left).toBe(before);
  });
});
