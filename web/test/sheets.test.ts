import { insideBark } from '@baumkin/core/measure';
import { bushSettingsSchema, kindOf } from '@baumkin/core/records';
import { growthBalance } from '@baumkin/core/taps';
import { meanVolumeRatio, DEFAULT_COLUMNS } from '@baumkin/core/trunk';
import { countable, growthRows, policyOf, suggestionFor } from '@baumkin/core/bush';
import { describe, expect, it } from 'vitest';

import { demo, rows } from './demoBush.ts';

const settings = bushSettingsSchema.parse({});
const standOf = (id: string | null) => demo.stands.find((stand) => stand.id === id) ?? null;

describe('who grows, who stalls', () => {
  const grown = growthRows(rows, settings, 2027, '2026-11-23');

  it('speaks of tagged, measured maples, each by what one hole a year asks of it', () => {
    const wanted = rows.filter((row) => row.tagged !== false && row.dbhMm !== null && kindOf(row) === 'maple');
    expect(grown.map(({ row }) => row.id).sort()).toEqual(wanted.map(({ id }) => id).sort());
    const { bitMm, depthMm, highestMm, lowestMm, acceptedShare } = settings;
    for (const { row, dbhMm, neededMm } of grown) {
      // phi = k A p / (2 w pi DIB H), solved for w at k = 1 and phi as accepted (docs/model.md, growth balance).
      const stain = meanVolumeRatio(DEFAULT_COLUMNS) * (Math.PI / 4) * bitMm ** 2 * depthMm;
      const by = stain / (2 * acceptedShare * Math.PI * insideBark(dbhMm) * (highestMm - lowestMm));
      // Maples but sugar and black maple have columns three tenths larger (working assumption).
      const wallsWell = row.species === null || row.species === 'sugarMaple' || row.species === 'blackMaple';
      expect(neededMm).toBeCloseTo((wallsWell ? 1 : 1.3) * by, 9);
    }
  });

  it('says yes and no only where an interval of eight in ten lies on one side', () => {
    const kinds = new Set(grown.map(({ keepsUp }) => keepsUp));
    expect([...kinds].sort()).toEqual(['no', 'open', 'yes']);
    for (const { row, neededMm, keepsUp } of grown) {
      const spread = 1.2816 * row.ringSeMm;
      if (row.ownGrowth === 0) expect(keepsUp).toBe('open');
      else if (keepsUp === 'yes') expect(row.ringMm - spread).toBeGreaterThan(neededMm);
      else if (keepsUp === 'no') expect(row.ringMm + spread).toBeLessThan(neededMm);
      else expect(Math.abs(row.ringMm - neededMm)).toBeLessThanOrEqual(spread);
    }
  });

  it('a reading is due where one is in question, none was taken, or the last is old', () => {
    for (const { row, yearsSince, due } of grown)
      expect(due).toBe(row.questions > 0 || yearsSince === null || yearsSince > 5);
  });
});

describe('the whole bush counted', () => {
  const counted = rows.filter((row) => countable(row, standOf(row.standId)));

  it('leaves out what has no tag, is no settled maple, or stands where nothing is tapped', () => {
    expect(counted.length).toBeGreaterThan(200);
    for (const row of counted) {
      expect(row.tagged).not.toBe(false);
      expect(['syrup', 'mixed', undefined]).toContain(standOf(row.standId)?.purpose);
      expect(kindOf(row)).toBe('maple');
    }
    const ledge = rows.filter((row) => standOf(row.standId)?.purpose === 'wildlife');
    expect(ledge.filter((row) => kindOf(row) === 'maple').length).toBeGreaterThan(5);
  });

  it('no suggestion is above any of its limits, and what growth carries is never above the mean', () => {
    for (const row of counted) {
      const { taps, limits } = suggestionFor(
        row,
        { settings, season: 2027, today: '2026-11-23', stand: standOf(row.standId) ?? null },
        2
      );
      expect(taps).toBeLessThanOrEqual(Math.min(limits.size, limits.condition, limits.growth || 1, limits.room!));
      const { tapsCarried } = growthBalance({
        dbhMm: row.dbhMm!,
        ringMm: row.ringMm,
        ringSeMm: row.ringSeMm,
        ...policyOf(settings)
      });
      // Seven in ten sure of k taps, and a mean that carries fewer than k, cannot be; one counts from 0.9 on.
      expect(Math.max(0.9, limits.growth)).toBeLessThanOrEqual(Math.max(0.9, tapsCarried) + 0.1);
    }
  });
});
