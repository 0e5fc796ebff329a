import type { TreeRow } from '../records/index.ts';
import type { StandTree } from '../stand/index.ts';
/** The trees that stand and have a place and a diameter, as the crown computation wants them. One that lies shades nobody. */
export function standTrees(rows: readonly TreeRow[]): StandTree[] {
  return rows.flatMap((row) =>
    row.eastM !== null && row.northM !== null && row.dbhMm !== null && row.fallen?.what !== 'lying'
      ? [
          {
            id: row.id,
            tag: row.tag,
            species: row.species,
            dbhMm: row.dbhMm,
            eastM: row.eastM,
            northM: row.northM,
            positionQuality: row.positionQuality ?? 'paced',
            positionAccuracyM: row.positionAccuracyM,
            stemOf: row.stemOf,
            heightM: row.heightM,
            crownRadiiM: row.crownRadiiM
          }
        ]
      : []
  );
}
