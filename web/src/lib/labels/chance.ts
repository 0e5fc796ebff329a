/** A chance as one says it in the woods: "about 9 in 10". Never more exact than the model. */
export function chanceInWords(p: number): string {
  if (p >= 0.985) return 'almost certain';
  if (p <= 0.03) return 'almost none';
  if (p > 0.93) return 'about 19 in 20';
  if (p < 0.07) return 'about 1 in 20';
  return `about ${Math.round(p * 10)} in 10`;
}
