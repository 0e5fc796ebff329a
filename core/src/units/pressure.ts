/** A column of mercury of one inch, kPa. Conventional millimetre of mercury, 133.322387415 Pa, times 25.4. */
export const KPA_PER_INCH_OF_MERCURY = 3.386388640341;
