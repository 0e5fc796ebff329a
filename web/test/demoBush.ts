import { deriveBush, linesOf, treeRow, type WorkRecord } from '@baumkin/core/records';

import { corranHill } from '../../demo/corranHill.ts';

/** The demo bush as the screens see it. */
export const demo = corranHill();
export const lives = new Map<string, WorkRecord[]>();
for (const record of demo.records) lives.set(record.treeId, [...(lives.get(record.treeId) ?? []), record]);
const lines = linesOf(demo.walk, demo.records);
const { states } = deriveBush(
  lines.map(({ id }) => lives.get(id) ?? []),
  { season: 2027, today: '2026-11-23' }
);
export const known = lines.map((line, i) => ({ row: treeRow(line, states[i]!), state: states[i]! }));
/** what stands */
export const rows = known.map(({ row }) => row).filter(({ cut }) => cut === null);
