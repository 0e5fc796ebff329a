import type { WorkRecord } from '@baumkin/core';
import Dexie, { type EntityTable } from 'dexie';

import type { Overview } from './overview.ts';

/** A record that has not reached the server yet, or that the server refused. */
export interface OutboxEntry {
  readonly id: string;
  readonly bushId: string;
  /** who wrote it; nobody else on this device sends it in her name */
  readonly memberId: string;
  readonly treeId: string;
  readonly record: WorkRecord;
  readonly addedAt: number;
  /** the server's reason for refusing it; null while it waits */
  readonly refused: string | null;
}

/** What this device keeps, so that work goes on without a network and nothing typed is lost. */
class DeviceStore extends Dexie {
  overviews!: EntityTable<{ bushId: string; overview: Overview }, 'bushId'>;
  lives!: EntityTable<{ treeId: string; bushId: string; records: WorkRecord[] }, 'treeId'>;
  outbox!: EntityTable<OutboxEntry, 'id'>;

  constructor() {
    super('baumkin');
    this.version(1).stores({ overviews: 'bushId', lives: 'treeId, bushId', outbox: 'id, bushId, treeId' });
  }
}

export const store = new DeviceStore();
