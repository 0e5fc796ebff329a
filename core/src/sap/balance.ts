import { syrupDensity } from './density.ts';

/** Some sap, or what became of it. */
export interface Sugared {
  readonly litres: number;
  /** sugar, per cent by mass */
  readonly brix: number;
}

/** Sugar in it, kg. */
export const sugarKg = ({ litres, brix }: Sugared): number => (litres * syrupDensity(brix) * brix) / 100_000;

/** What it weighs, kg. */
export const massKg = ({ litres, brix }: Sugared): number => (litres * syrupDensity(brix)) / 1000;

const ofMass = (kg: number, sugar: number): Sugared => {
  const brix = kg > 0 ? (100 * sugar) / kg : 0;
  return { litres: kg > 0 ? (1000 * kg) / syrupDensity(brix) : 0, brix };
};

/** Several put together: masses and sugar add up, litres nearly. */
export function blended(parts: readonly Sugared[]): Sugared {
  return ofMass(
    parts.reduce((sum, part) => sum + massKg(part), 0),
    parts.reduce((sum, part) => sum + sugarKg(part), 0)
  );
}

/** Sap boiled down to a sugar: no sugar goes away with the steam. @throws RangeError where it has more sugar already */
export function boiledTo(sap: Sugared, brix: number): { readonly syrup: Sugared; readonly waterKg: number } {
  if (!(brix >= sap.brix)) throw new RangeError(`Boiling makes ${sap.brix} % no thinner.`);
  const sugar = sugarKg(sap);
  const kg = brix > 0 ? (100 * sugar) / brix : massKg(sap);
  return { syrup: ofMass(kg, sugar), waterKg: massKg(sap) - kg };
}

/** Litres of sap to a litre of syrup, by mass and density. */
export const litresToSyrup = (sapBrix: number, syrupBrix: number): number =>
  1 / boiledTo({ litres: 1, brix: sapBrix }, syrupBrix).syrup.litres;

/** Ice keeps some of the sugar of what it froze from, as a share. Working assumption. */
export const ICE_KEEPS = 0.15;
/** A litre of ice weighs, kg. */
const ICE_KG_A_LITRE = 0.917;

/**
 * Sap whose ice was taken off: what is left is sweeter, and the ice took some sugar with it.
 * @param iceLitres of the ice itself
 * @throws RangeError where that is more than there was
 */
export function iceTakenOff(
  sap: Sugared,
  iceLitres: number,
  keeps = ICE_KEEPS
): { readonly left: Sugared; readonly lostSugarKg: number } {
  const iceKg = iceLitres * ICE_KG_A_LITRE;
  const kg = massKg(sap) - iceKg;
  if (!(kg > 0)) throw new RangeError('That is more ice than there was sap.');
  const lost = (iceKg * sap.brix * keeps) / 100;
  return { left: ofMass(kg, sugarKg(sap) - lost), lostSugarKg: lost };
}

/** A plain pan boils away so much water, litres an hour and square metre. Working assumption: from a quiet fire to a roaring one. */
export const PAN_LITRES_AN_HOUR = { low: 20, usual: 30, high: 45 } as const;

/** Hours of boiling. @param litresAnHour by the pan's own log, or by its area */
export const boilingHours = (waterKg: number, litresAnHour: number): number => waterKg / litresAnHour;

/** Stock that a dilution is made of. */
export interface Stock {
  /** per cent, as its label says */
  readonly pct: number;
  /** does the label give mass in volume, or mass in mass? */
  readonly by: 'volume' | 'weight';
}

/** Strong peroxide weighs so much, kg a litre, where its label is by weight. From memory. */
const PEROXIDE_KG_A_LITRE = 1.11;

/**
 * How much of a stock of peroxide is made up with water to so much of a weaker one: C1 V1 = C2 V2.
 * @param litres of the weaker one @param pct of it, mass in volume
 * @returns litres of the stock
 * @throws RangeError where the stock is the weaker one
 */
export function stockFor(litres: number, pct: number, stock: Stock): number {
  const strength = stock.by === 'weight' ? stock.pct * PEROXIDE_KG_A_LITRE : stock.pct;
  if (!(strength > pct && pct > 0)) throw new RangeError(`Of ${stock.pct} % no ${pct} % can be made.`);
  return (litres * pct) / strength;
}
