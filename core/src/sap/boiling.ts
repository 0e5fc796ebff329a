/** Antoine's constants of water about 100 °C: pressure in bar, temperature in kelvin. NIST webbook, from memory. */
const [A, B, C] = [5.0768, 1659.793, -45.854];
/** 0 °C on the absolute scale, K. */
const KELVIN = 273.15;

/** Air pressure at sea level in the standard atmosphere, hPa. ICAO 1993. */
export const SEA_LEVEL_HPA = 1013.25;

/** Pressure by altitude in the standard atmosphere, hPa (ICAO 1993). @param altitudeM above the sea, -500..5000 */
export const pressureAt = (altitudeM: number): number => SEA_LEVEL_HPA * (1 - 2.25577e-5 * altitudeM) ** 5.25588;

/** No sugarhouse lies so high, hPa. */
const LEAST_HPA = 500;
/** No weather was ever heavier, hPa: the record of the earth is about 1084. From memory. */
const MOST_HPA = 1090;

/**
 * The temperature at which water boils today, °C.
 * @param pressureHpa as a barometer of the place shows it, not reduced to the sea
 * @throws RangeError where no place has it
 */
export function waterBoilsAt(pressureHpa: number): number {
  if (!(pressureHpa >= LEAST_HPA && pressureHpa <= MOST_HPA))
    throw new RangeError(`${pressureHpa} hPa is no pressure of the air.`);
  return B / (A - Math.log10(pressureHpa / 1000)) - C - KELVIN;
}

/** Sugar at which syrup is finished, per cent by mass: the least of the US grade standards. */
export const FINISHED_BRIX = 66;
/** The same where the rules ask for heavier syrup, per cent by mass. State grade standards, from memory. */
export const FINISHED_BRIX_HEAVY = 66.9;
/** So far above boiling water finished syrup boils, °C: 7.1 °F. US grade standards. */
const RISE_C = 3.9;
/** The same for heavier syrup, °C. From memory. */
const RISE_HEAVY_C = 4.2;

/** How far above today's boiling water finished syrup boils, °C. @param brix 65..68, where it is all but a straight line */
export function finishRise(brix: number): number {
  if (!(brix >= 65 && brix <= 68)) throw new RangeError(`Syrup is not finished at ${brix} %.`);
  return RISE_C + ((brix - FINISHED_BRIX) * (RISE_HEAVY_C - RISE_C)) / (FINISHED_BRIX_HEAVY - FINISHED_BRIX);
}

/** The temperature at which syrup is finished today, °C. @param pressureHpa of the place */
export const finishesAt = (brix: number, pressureHpa: number): number => waterBoilsAt(pressureHpa) + finishRise(brix);
