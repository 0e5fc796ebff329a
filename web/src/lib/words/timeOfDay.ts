const two = (part: number) => String(part).padStart(2, '0');

/** The time of a clock as a field of times has it. */
export const timeOf = (clock: Date): string => `${two(clock.getHours())}:${two(clock.getMinutes())}`;

/** The hour that a field of times says, to the thousandth; null where it says none. */
export function hourOf(time: string): number | null {
  const [hours = NaN, minutes = NaN] = time.split(':').map(Number);
  return Number.isNaN(hours + minutes) ? null : Number((hours + minutes / 60).toFixed(3));
}
