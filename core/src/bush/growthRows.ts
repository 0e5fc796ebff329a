import { Z_EIGHTY } from '../math/index.ts';
import { fractionalYear } from '../measure/index.ts';
import { knownMaple, REMEASURE_YEARS, type BushSettings, type TreeRow } from '../records/index.ts';
import { growthBalance, valueOfMeasuring } from '../taps/index.ts';
import { balanceOf } from './policy.ts';

/** A maple's growth, beside what a taphole a year asks of it. */
export interface GrowthRow {
  readonly row: TreeRow;
  readonly dbhMm: number;
  /** ring width that one hole a year asks for, mm */
  readonly neededMm: number;
  /** its own readings or rings say something of its growth; else trees like it are what is known */
  readonly measured: boolean;
  /** surely enough for one hole a year, surely too little, or not known well enough to say: always where it was not measured */
  readonly keepsUp: 'yes' | 'no' | 'open';
  readonly yearsSince: number | null;
  readonly due: boolean;
  /** chance that measuring again would change the count, 0..1 */
  readonly worth: number;
}

/** The maples of the bush that have a tag and a diameter, with what their growth means. */
export function growthRows(
  rows: readonly TreeRow[],
  settings: BushSettings,
  season: number,
  today: string
): GrowthRow[] {
  return rows.flatMap((row): GrowthRow[] => {
    if (row.dbhMm === null || row.tagged === false || knownMaple(row) !== true) return [];
    const input = {
      dbhMm: row.dbhMm,
      ringMm: row.ringMm,
      ringSeMm: row.ringSeMm,
      ...balanceOf(settings, row.species)
    };
    const neededMm = growthBalance(input).ringForOneMm;
    const spread = Z_EIGHTY * row.ringSeMm;
    const yearsSince = row.lastReadingOn ? fractionalYear(today) - fractionalYear(row.lastReadingOn) : null;
    return [
      {
        row,
        dbhMm: row.dbhMm,
        neededMm,
        measured: row.ownGrowth > 0,
        keepsUp:
          row.ownGrowth === 0
            ? 'open'
            : row.ringMm - spread > neededMm
              ? 'yes'
              : row.ringMm + spread < neededMm
                ? 'no'
                : 'open',
        yearsSince,
        due: row.questions > 0 || yearsSince === null || yearsSince > REMEASURE_YEARS,
        worth: valueOfMeasuring(
          {
            ...input,
            condition: null,
            today,
            forbidden: false,
            givesSap: true,
            room: null,
            seasonsSinceTapped: row.lastTappedSeason === null ? null : season - row.lastTappedSeason,
            ownGrowth: row.ownGrowth
          },
          yearsSince ?? 0
        )
      }
    ];
  });
}
