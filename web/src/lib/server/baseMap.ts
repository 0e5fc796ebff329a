import { baseMapFitSchema, type BaseMapFit } from '@baumkin/core/records';
import type { Transaction } from 'sequelize';

import { noted, type DoneBy } from './audit.ts';
import { writeToBush } from './bushWrite.ts';
import { BaseMapRow } from './db/index.ts';
import { Refused } from './refusals.ts';

/** The picture that lies under a bush's map, with how it lies there. */
export interface BaseMap {
  readonly mimeType: string;
  readonly picture: Buffer;
}

export const MAX_BASE_MAP_BYTES = 12_000_000;

/** What the bytes say they are; the sender's word is not asked. */
const KINDS: readonly { readonly mimeType: string; readonly begins: readonly number[] }[] = [
  { mimeType: 'image/png', begins: [0x89, 0x50, 0x4e, 0x47] },
  { mimeType: 'image/jpeg', begins: [0xff, 0xd8, 0xff] }
];

/** Lays a picture under a bush's map. @throws Refused 'noPicture' */
export async function setBaseMap(
  { bushId, authorId }: Pick<DoneBy, 'bushId' | 'authorId'>,
  picture: Buffer,
  fit: BaseMapFit
): Promise<void> {
  await writeToBush(bushId, async (write) => {
    const { transaction, now } = write;
    await keepBaseMap(bushId, picture, fit, transaction);
    await noted({ bushId, authorId, at: now }, 'ground', { baseMap: true }, transaction);
    write.touches('bush');
  });
}

/** The same within a larger write. @throws Refused 'noPicture' */
export async function keepBaseMap(
  bushId: string,
  picture: Buffer,
  fit: BaseMapFit,
  transaction: Transaction
): Promise<void> {
  const kind = KINDS.find(({ begins }) => begins.every((byte, i) => picture[i] === byte));
  if (!kind) throw new Refused('noPicture');
  await BaseMapRow.upsert({ bushId, mimeType: kind.mimeType, picture, fit }, { transaction });
}

/** The picture under the map; null where there is none. */
export async function baseMapOf(bushId: string): Promise<BaseMap | null> {
  const row = await BaseMapRow.findByPk(bushId);
  return row && { mimeType: row.mimeType, picture: row.picture };
}

/** How the picture lies, without the picture. */
export async function baseMapFitOf(bushId: string, transaction?: Transaction): Promise<BaseMapFit | null> {
  const row = await BaseMapRow.findByPk(bushId, { attributes: ['fit'], transaction });
  return row && baseMapFitSchema.parse(row.fit);
}

/** Takes the picture from under the map. */
export async function deleteBaseMap({ bushId, authorId }: Pick<DoneBy, 'bushId' | 'authorId'>): Promise<void> {
  await writeToBush(bushId, async (write) => {
    const { transaction, now } = write;
    await BaseMapRow.destroy({ where: { bushId }, transaction });
    await noted({ bushId, authorId, at: now }, 'ground', { baseMap: false }, transaction);
    write.touches('bush');
  });
}
