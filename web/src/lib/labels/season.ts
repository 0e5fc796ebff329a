import type { GearKind, RunAhead, SeasonGroup } from '@baumkin/core/bush';
import type { Batch, ClosingRecord, SapLook } from '@baumkin/core/records';
import type { Carrier, Clearing, RunReason, SeasonSignKind, SeriesDay, Vessel } from '@baumkin/core/season';

import { counted } from './counted.ts';

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
const WEEKDAYS = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat'];

/** A day as people name it within a season: `Tue 2 Mar`. @param on ISO date */
export function dayWords(on: string): string {
  const day = new Date(`${on}T00:00:00Z`);
  return `${WEEKDAYS[day.getUTCDay()]} ${day.getUTCDate()} ${MONTHS[day.getUTCMonth()]}`;
}

/** The same without the day of the week: `2 Mar`. */
export const shortDay = (on: string): string => dayWords(on).slice(4);

/** An hour of the day: `10`, or `half past 10` where it matters. @param hour 0 to 24 */
export const hourWords = (hour: number): string => {
  const whole = Math.floor(hour);
  const minutes = Math.round(60 * (hour - whole));
  return `${String(whole).padStart(2, '0')}:${String(minutes === 60 ? 59 : minutes).padStart(2, '0')}`;
};

/** Why a day is as it is. */
export const REASON_WORDS: Readonly<Record<RunReason, string>> = {
  runs: 'frost by night and a thaw by day',
  runsWeakly: 'little frost or little thaw',
  noFrost: 'no frost in the night',
  noThaw: 'it does not thaw',
  hardFrost: 'after so hard a night the wood thaws too late',
  tooWarm: 'too warm by day'
};

export const WEATHER_FROM: Readonly<Record<SeriesDay['from'], string>> = {
  typed: 'read by hand',
  thermometer: 'the bush’s thermometer',
  station: 'the station',
  forecast: 'foretold',
  filled: 'filled from the days beside it'
};

/** How a coming day runs, with its reason and its hours. @param name `Today`, `Tomorrow` */
export function runWords(name: string, { reason, chance, hours, sunMayDo }: RunAhead): string {
  const when = hours ? `, from about ${hours[0]} to ${hours[1]} o’clock` : '';
  const because = REASON_WORDS[reason];
  if (chance > 0.3 && chance < 0.7)
    return `${name} may go either way (${Math.round(10 * chance)} in 10 that it runs): ${because}.`;
  if (reason === 'runs') return `${name} sap runs well${when}: ${because}.`;
  if (reason === 'runsWeakly') return `${name} a little runs${when}: ${because}.`;
  return `${name} the trees stay dry: ${because}${sunMayDo ? '. In full sun a little may come all the same' : ''}.`;
}

/** Today and tomorrow, in one sentence where they are alike. */
export function daysInWords(today: RunAhead | undefined, tomorrow: RunAhead | undefined): string[] {
  if (!today) return [];
  if (!tomorrow) return [runWords('Today', today)];
  const sure = ({ chance }: RunAhead) => chance <= 0.3 || chance >= 0.7;
  const alike = today.reason === tomorrow.reason && sure(today) && sure(tomorrow) && !today.sunMayDo;
  if (!alike) return [runWords('Today', today), runWords('Tomorrow', tomorrow)];
  const hours = today.hours && tomorrow.hours && today.reason.startsWith('runs');
  return [runWords('Today and tomorrow', { ...today, hours: hours ? today.hours : null })];
}

/** Trees that run alike. */
export function groupWords({ swell, sunny }: Pick<SeasonGroup, 'swell' | 'sunny'>): string {
  const trees = swell === 'early' ? 'red and silver maples' : 'sugar and other late maples';
  return sunny ? `${trees} in the sun` : trees;
}

export const VESSEL_WORDS: Readonly<Record<Vessel, string>> = {
  bucket: 'buckets at the spouts',
  bag: 'bags at the spouts',
  pail: 'pails on the ground, with a tube',
  tank: 'a tank at the foot of lines'
};

export const CARRIER_WORDS: Readonly<Record<Carrier, string>> = {
  hand: 'by hand, two pails',
  yoke: 'by yoke',
  sled: 'by sled',
  vehicle: 'by vehicle'
};

export const LOOK_WORDS: Readonly<Record<SapLook, string>> = {
  clear: 'clear as water',
  cloudy: 'cloudy',
  yellow: 'yellow',
  ropy: 'ropy'
};

export const CLEARING_WORDS: Readonly<Record<Clearing, readonly [name: string, why: string]>> = {
  leave: ['Leave them', 'Sap washes the rest out. Nothing foreign gets in.'],
  brush: ['Brush them out', 'A clean bottle brush or twig, once round.'],
  rinse: ['Rinse', 'A squirt of boiled, cooled water; the hole drains, since it slopes.'],
  swab: ['Swab', 'A fresh swab for each hole.']
};

export const SIGN_WORDS: Readonly<Record<SeasonSignKind, string>> = {
  squirrels: 'squirrels lick bitten twigs',
  brokenTwigs: 'broken twigs are wet',
  budsClosed: 'buds are tight',
  budsSwollen: 'buds swell',
  moths: 'moths or flies in the sap',
  smell: 'sap smells or tastes of buds',
  greenish: 'sap is greenish or woody'
};

/** `12 taps, 4 of them drilled`. */
export const tapsWords = (taps: number, drilled: number): string =>
  drilled === 0 ? `${counted(taps, 'tap')}, none drilled yet` : `${counted(taps, 'tap')}, ${drilled} drilled`;

export const BATCH_OF_WORDS: Readonly<Record<Batch['of'], string>> = {
  maple: 'maple',
  birch: 'birch',
  walnut: 'walnut'
};
export const BECAME_WORDS: Readonly<Record<Batch['became'], string>> = {
  syrup: 'became syrup',
  usedAsSap: 'was used as sap',
  pouredAway: 'was poured away'
};
export const COLOUR_WORDS: Readonly<Record<NonNullable<Batch['colour']>, string>> = {
  golden: 'golden',
  amber: 'amber',
  dark: 'dark',
  veryDark: 'very dark',
  kitchen: 'for the kitchen'
};
export const WENT_WORDS: Readonly<Record<Batch['bottles'][number]['went'], string>> = {
  kept: 'kept',
  given: 'given away',
  sold: 'sold'
};

/** What became of bottled syrup, litres: `12 l kept in bottles, 3.0 l sold`. */
export function bottledWords(
  bottled: Readonly<Record<Batch['bottles'][number]['went'], number>>,
  { fewLitres }: { fewLitres: (litres: number) => string }
): string {
  const parts = (['kept', 'given', 'sold'] as const).flatMap((went) =>
    bottled[went] > 0 ? [`${fewLitres(bottled[went])} ${went === 'kept' ? 'kept in bottles' : WENT_WORDS[went]}`] : []
  );
  return parts.length > 0 ? parts.join(', ') : 'none of it in bottles';
}

/** A look at closing holes in a line, for the life of a tree. */
export function closingWords({ holes, oozing, dyingBark, fungus }: ClosingRecord): string {
  const not = holes.filter(({ state }) => state !== 'closed');
  const said = not.map(({ state, gapMm }) => `${HOLE_STATE_WORDS[state]}${gapMm === null ? '' : `, ${gapMm} mm`}`);
  const seen = [
    ...(oozing ? ['oozes'] : []),
    ...(dyingBark ? ['bark dies round one'] : []),
    ...(fungus ? ['fungus'] : [])
  ];
  const closed = holes.length - not.length;
  return [`Holes looked at: ${[...(closed > 0 ? [`${closed} closed`] : []), ...said].join('; ')}`, ...seen].join('; ');
}

export const HOLE_STATE_WORDS: Readonly<Record<ClosingRecord['holes'][number]['state'], string>> = {
  closed: 'closed',
  slit: 'a slit',
  open: 'open'
};

export const GEAR_WORDS: Readonly<Record<GearKind, string>> = {
  spouts: 'spouts',
  bits: 'bits, sharp',
  bucket: 'buckets',
  lids: 'lids',
  bag: 'bags with their holders',
  pail: 'pails for the ground',
  tubes: 'tubes to the pails',
  tank: 'tanks',
  drops: 'drop lines with fittings',
  carryPails: 'pails to carry with',
  peroxide: 'bottle of peroxide, vented, and cloths',
  thermometer: 'thermometer for the pan, to a tenth',
  hydrometer: 'hydrometers, for sap and for syrup',
  filters: 'filters for hot syrup'
};
