import type { Rng } from '@baumkin/core/math';
import type { RecordInput } from '@baumkin/core/records';

/** A tree of the demo while its records are being made up. */
export interface TaggedTree {
  readonly id: string;
  readonly tag: string;
  readonly standId: string;
  readonly eastM: number;
  readonly northM: number;
}

export type Envelope = (on: string) => Pick<RecordInput, 'id' | 'treeId' | 'on' | 'recordedAt'>;

/** What the records of a tree have in common. The id is drawn when the day is named: the order of draws is part of the demo. */
export const envelopeOf =
  (treeId: string, uuid: () => string, hour = 15): Envelope =>
  (on) => ({ id: uuid(), treeId, on, recordedAt: `${on}T${String(hour).padStart(2, '0')}:00:00.000Z` });

/** Well-formed version 4 ids from the generator, so that the demo is the same everywhere. */
export function uuidMaker(rng: Rng): () => string {
  const hex = (digits: number) =>
    Math.floor(rng.uniform() * 16 ** digits)
      .toString(16)
      .padStart(digits, '0');
  return () =>
    `${hex(8)}-${hex(4)}-4${hex(3)}-${(8 + Math.floor(rng.uniform() * 4)).toString(16)}${hex(3)}-${hex(6)}${hex(6)}`;
}

export function round(value: number, digits: number): number {
  return Number(value.toFixed(digits));
}
