import { z } from 'zod';

import { PLACEMENT_STRATEGY_IDS } from '../../rotation/index.ts';
import { mean } from '../../math/index.ts';
import { plainNumber } from '../cells.ts';
import { bearingDeg, bitMm, depthMm, season, trunkHeightMm } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';

/** A hole that was drilled. */
export const taphole = recordKind({
  kind: 'taphole',
  table: 'tapholes',
  label: 'taphole',
  of: 'tree',
  group: 'holes',
  writer: 'crew',
  fields: {
    season,
    bearingDeg,
    heightMm: trunkHeightMm,
    bitMm,
    depthMm,
    /** chance of clear wood that was predicted when it was placed; null for holes that were not planned here */
    predictedClear: z.number().min(0).max(1).nullable().default(null),
    /** the placement strategy that it followed; null where nobody said */
    strategy: z.enum(PLACEMENT_STRATEGY_IDS).nullable().default(null)
  },
  holds: 'list',
  line: (holes, { season }) => {
    const before = holes.filter((hole) => hole.season < season).map((hole) => hole.season);
    const now = holes.filter((hole) => hole.season === season);
    const predicted = now.flatMap(({ predictedClear }) => predictedClear ?? []);
    return {
      drilled: now.length,
      /** the day of its first hole of the season */
      drilledOn: now[0]?.on ?? null,
      /** chance of clear wood of its holes of the season, on average; null where none was predicted */
      clearChance: predicted.length > 0 ? mean(predicted) : null,
      lastTappedSeason: before.length > 0 ? Math.max(...before) : null
    };
  },
  csv: {
    title: 'Tapholes',
    columns: [
      { name: 'season', type: 'year', explains: 'the spring in which it ran', example: '2025' },
      { name: 'bearing_deg', type: 'number', explains: 'side of the trunk, clockwise from north', example: '205' },
      { name: 'height_cm', type: 'number', explains: 'above the ground', example: '120' },
      { name: 'bit_mm', type: 'number', explains: 'diameter of the bit; the bush’s own where empty', example: '7.94' },
      { name: 'depth_mm', type: 'number', explains: 'depth in wood; the bush’s own where empty', example: '38.1' }
    ],
    cells: (hole) => [
      String(hole.season),
      plainNumber(hole.bearingDeg),
      plainNumber(hole.heightMm / 10),
      plainNumber(hole.bitMm),
      plainNumber(hole.depthMm)
    ]
  }
});
export type Taphole = RecordOf<typeof taphole>;
