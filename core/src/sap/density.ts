/** Coefficients of the density of pure sucrose in water by its share of the mass, kg/m³: ICUMSA (Emmerich 1994), from memory. */
const BY_SHARE = [385.1761, 135.3705, 40.9299, -3.9643, 13.4853, -17.289] as const;
/** The same by temperature: rows by the power of (t - 20 °C)/100, columns by the power of the share. */
const BY_TEMPERATURE = [
  [-46.272, -7.172, 1.1597, 5.1126, 17.5254],
  [59.7712, 7.2491, 12.363, -35.4791],
  [-47.2207, -21.6977, 27.6301],
  [18.3184, 12.3081]
] as const;

/** Sugar per cent by mass from which on nobody weighs sap or syrup: sugar crystallises long before. */
export const MOST_BRIX = 85;

/** Density of water, kg/m³: Kell 1975, from memory. @param tempC 0..100 °C */
export function waterDensity(tempC: number): number {
  const t = tempC;
  const upper =
    999.83952 + t * (16.945176 + t * (-7.9870401e-3 + t * (-46.170461e-6 + t * (105.56302e-9 + t * -280.54253e-12))));
  return upper / (1 + 16.87985e-3 * t);
}

/**
 * Density of sap or syrup, taken as sucrose in water, kg/m³.
 * @param brix sugar, per cent by mass, 0..85
 * @param tempC 0..100 °C
 * @throws RangeError outside of these
 */
export function syrupDensity(brix: number, tempC = 20): number {
  if (!(brix >= 0 && brix <= MOST_BRIX)) throw new RangeError(`Sugar of ${brix} % is no sap and no syrup.`);
  if (!(tempC >= 0 && tempC <= 110)) throw new RangeError(`${tempC} °C is no temperature of a liquid here.`);
  const share = brix / 100;
  const warm = (tempC - 20) / 100;
  const bySum = (coefficients: readonly number[]) =>
    coefficients.reduce((sum, each, power) => sum + each * share ** (power + 1), 0);
  return (
    waterDensity(tempC) +
    bySum(BY_SHARE) +
    BY_TEMPERATURE.reduce((sum, row, power) => sum + bySum(row) * warm ** (power + 1), 0)
  );
}

/** How much heavier than water at the same 20 °C. */
export const specificGravity = (brix: number): number => syrupDensity(brix) / waterDensity(20);

/** Sugar that a density at a temperature tells, per cent by mass; null where it is below water's or beyond all syrup. */
export function brixOfDensity(density: number, tempC = 20): number | null {
  let [low, high] = [0, MOST_BRIX];
  if (density < syrupDensity(low, tempC) - 0.5 || density > syrupDensity(high, tempC)) return null;
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2;
    if (syrupDensity(middle, tempC) < density) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/** How much a glass hydrometer grows by a degree, as a share of its volume. From memory. */
const GLASS_A_DEGREE = 25e-6;

/**
 * What a hydrometer reads, corrected for the temperature: it floats at a mark, which at the temperature that it was made for
 * means a density. Warm syrup is lighter and reads too low.
 * @param read sugar per cent at its mark @param tempC of the liquid @param madeForC temperature on its paper
 * @returns sugar, per cent by mass; null where it tells none
 */
export function hydrometerBrix(read: number, tempC: number, madeForC = 20): number | null {
  const density = syrupDensity(read, madeForC) * (1 - GLASS_A_DEGREE * (tempC - madeForC));
  return brixOfDensity(density, tempC);
}
