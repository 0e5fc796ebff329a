import type { UnitSystem } from '@baumkin/core/units';

/** Zones of the clock in the country whose sugarbushes are measured in inches (common knowledge; Canada's tapes have both). */
const INCH_ZONES =
  /^(America\/(New_York|Detroit|Chicago|Denver|Boise|Phoenix|Los_Angeles|Anchorage|Indiana\/|Kentucky\/|North_Dakota\/|Menominee)|Pacific\/Honolulu|US\/)/;

/**
 * The units that are usual where a device's clock says that it is: asked where somebody begins, and changed with one touch. Its language
 * says less: many a browser speaks the English of a country that it never saw.
 */
export const unitsWhere = (timeZone: string): UnitSystem => (INCH_ZONES.test(timeZone) ? 'inch' : 'metric');
