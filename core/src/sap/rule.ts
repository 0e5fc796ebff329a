/** Litres of sap to a litre of syrup, times the sugar per cent. Jones 1946, Vermont Agricultural Experiment Station. */
export const JONES_RULE = 86;

/**
 * How much sap makes one measure of syrup.
 * @param sugarPct sugar in the sap, per cent of its weight, above 0
 * @throws RangeError when there is no sugar to speak of
 */
export function sapToSyrup(sugarPct: number): number {
  if (!(sugarPct > 0)) throw new RangeError('Sap without sugar makes no syrup.');
  return JONES_RULE / sugarPct;
}

/** Litres of sap that one tap in clear wood yields in a season with buckets. Common practice: about ten gallons. */
export const LITRES_A_TAP = 38;
