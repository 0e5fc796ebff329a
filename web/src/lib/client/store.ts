import type { PracticeAnswer } from '@baumkin/core/identify';
import { fromOlderRecord, fromOlderSettings, type BushRecord, type WorkRecord } from '@baumkin/core/records';
import Dexie, { type EntityTable } from 'dexie';

import type { Overview } from './overview.ts';

/** A record that has not reached the server yet, or that the server refused. */
export interface OutboxEntry {
  readonly id: string;
  readonly bushId: string;
  /** who wrote it; nobody else on this device sends it in her name */
  readonly memberId: string;
  /** null for a record of the bush as a whole */
  readonly treeId: string | null;
  readonly record: WorkRecord | BushRecord;
  readonly addedAt: number;
  /** the server's reason for refusing it; null while it waits */
  readonly refused: string | null;
}

/** What a sheet holds half done, so that leaving it loses nothing. */
export interface SheetDraft {
  /** member, sheet and tree or bush */
  readonly key: string;
  readonly bushId: string;
  readonly value: unknown;
  readonly at: number;
}

/** One answer of the practice, on this device alone. */
export interface PracticeEntry {
  readonly id?: number;
  readonly memberId: string;
  readonly at: number;
  readonly answer: PracticeAnswer;
}

/** What this device keeps, so that work goes on without a network and nothing typed is lost. */
class DeviceStore extends Dexie {
  overviews!: EntityTable<{ bushId: string; overview: Overview }, 'bushId'>;
  lives!: EntityTable<{ treeId: string; bushId: string; records: WorkRecord[] }, 'treeId'>;
  outbox!: EntityTable<OutboxEntry, 'id'>;
  drafts!: EntityTable<SheetDraft, 'key'>;
  practice!: EntityTable<PracticeEntry, 'id'>;

  constructor() {
    super('baumkin');
    this.version(1).stores({ overviews: 'bushId', lives: 'treeId, bushId', outbox: 'id, bushId, treeId' });
    this.version(2).stores({ drafts: 'key, bushId', practice: '++id, memberId' });
    // Kinds and fields were renamed: what waits here, and what is read without a network, is renamed too.
    this.version(3).upgrade(async (kept) => {
      await kept
        .table<{ record: unknown }>('outbox')
        .toCollection()
        .modify((entry) => {
          entry.record = fromOlderRecord(entry.record);
        });
      await kept
        .table<{ records: unknown[] }>('lives')
        .toCollection()
        .modify((life) => {
          life.records = life.records.map(fromOlderRecord);
        });
      await kept
        .table<{ overview: { bush: { settings: unknown } } }>('overviews')
        .toCollection()
        .modify(({ overview }) => {
          overview.bush.settings = fromOlderSettings(overview.bush.settings);
        });
    });
  }
}

export const store = new DeviceStore();
