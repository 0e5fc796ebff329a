import { randomUUID } from 'node:crypto';
import {
  isMaple,
  readTreesCsv,
  seasonOf,
  toLocalMetres,
  UnreadableFile,
  type BushSettings,
  type CsvTree,
  type LengthUnit,
  type TreesFile,
  type WorkRecord
} from '@baumkin/core';

import type { BushAccess } from './bushes.ts';
import { Bush, StandRow, tables, TreeRecord } from './db/index.ts';
import { storeMany } from './records.ts';
import { standsOf } from './bushes.ts';

export interface ImportResult {
  readonly stored: number;
  readonly bad: TreesFile['bad'];
}

/**
 * Reads a file of trees and stores its good rows, all or none of them. Trees that the bush has already are left as they
 * are. A tree's species, reading and past holes become dated records of their own.
 * @throws UnreadableFile
 */
export async function importTrees(
  bush: BushAccess,
  memberId: string,
  text: string,
  defaultUnit: LengthUnit,
  today: string,
  now = new Date()
): Promise<ImportResult> {
  return tables().sequelize.transaction(async (transaction) => {
    // Two imports into one bush at a time would both think a tag is free: the second waits here.
    await Bush.findByPk(bush.id, { transaction, lock: true });
    const existing = await TreeRecord.findAll({
      where: { bushId: bush.id },
      attributes: ['tag', 'walkOrder'],
      transaction,
      raw: true
    });
    const knownTags = new Set(existing.map((t) => t.tag.toLowerCase()));
    const file = readTreesCsv(text, { knownTags, today, defaultUnit });
    if (file.trees.length === 0) return { stored: 0, bad: file.bad };

    const stands = new Map((await standsOf(bush.id)).map((s) => [s.name.toLowerCase(), s.id]));
    for (const name of new Set(file.trees.flatMap((t) => (t.stand ? [t.stand.slice(0, 80)] : [])))) {
      if (stands.has(name.toLowerCase())) continue;
      const id = randomUUID();
      await StandRow.create({ id, bushId: bush.id, name, purpose: 'syrup', areaHa: null }, { transaction });
      stands.set(name.toLowerCase(), id);
    }

    const origin = bush.origin ?? originOf(file.trees);
    if (origin && !bush.origin)
      await Bush.update({ originLat: origin.lat, originLon: origin.lon }, { where: { id: bush.id }, transaction });

    const next = 1 + Math.max(-1, ...existing.map((t) => t.walkOrder));
    const withIds = file.trees.map((tree, i) => ({ tree, id: randomUUID(), walkOrder: next + i }));
    const rows = withIds.map(({ tree, id, walkOrder }) => ({
      id,
      bushId: bush.id,
      standId: tree.stand ? (stands.get(tree.stand.slice(0, 80).toLowerCase()) ?? null) : null,
      tag: tree.tag,
      walkOrder,
      ...placed(tree.position, origin),
      heightM: null,
      crownRadiusM: null
    }));
    for (let i = 0; i < rows.length; i += 2000) await TreeRecord.bulkCreate(rows.slice(i, i + 2000), { transaction });
    const records = withIds.flatMap(({ tree, id }) => recordsOf(tree, id, bush.settings, today, now));
    await storeMany(records, bush.id, memberId, now, transaction);
    return { stored: rows.length, bad: file.bad };
  });
}

export { UnreadableFile };

function originOf(trees: readonly CsvTree[]): { lat: number; lon: number } | null {
  const first = trees.map((t) => t.position).find((p) => p !== null && 'lat' in p);
  return first && 'lat' in first ? { lat: first.lat, lon: first.lon } : null;
}

function placed(position: CsvTree['position'], origin: { lat: number; lon: number } | null) {
  if (!position) return { eastM: null, northM: null, positionQuality: null };
  if ('eastM' in position) return { eastM: position.eastM, northM: position.northM, positionQuality: position.quality };
  return { ...toLocalMetres(origin!, position), positionQuality: position.quality };
}

function recordsOf(tree: CsvTree, treeId: string, settings: BushSettings, today: string, now: Date): WorkRecord[] {
  const envelope = () => ({
    id: randomUUID(),
    treeId,
    recordedAt: now.toISOString(),
    correctsId: null,
    withdrawn: false
  });
  const records: WorkRecord[] = [];
  if (tree.species || tree.mapleOpen) {
    const verdict = tree.mapleOpen ? 'mapleOpen' : isMaple(tree.species!) ? 'settled' : 'notMaple';
    records.push({
      ...envelope(),
      kind: 'determination',
      on: today,
      verdict,
      species: tree.species,
      probability: 1,
      age: 'grown',
      basis: 'declared',
      lookSeason: null,
      evidence: {},
      note: 'taken from an imported file'
    });
  }
  if (tree.reading) {
    const { quantity, valueMm, asWritten, on, method } = tree.reading;
    records.push({
      ...envelope(),
      kind: 'reading',
      on,
      quantity,
      valueMm,
      asWritten,
      method,
      heightMm: settings.breastHeightMm,
      confirmed: false,
      note: ''
    });
  }
  for (const hole of tree.holes) {
    const on = `${hole.season}-03-01`;
    records.push({
      ...envelope(),
      kind: 'taphole',
      on: on <= today ? on : today,
      season: Math.min(hole.season, seasonOf(today)),
      bearingDeg: hole.bearingDeg,
      heightMm: hole.heightMm,
      bitMm: settings.bitMm,
      depthMm: settings.depthMm,
      predictedClear: null
    });
  }
  return records;
}
