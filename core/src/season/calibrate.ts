import { pool, toldApart, Z_EIGHTY, type EffectKind, type Observed } from '../math/index.ts';
import type { SeasonCourse } from './course.ts';
import { ageing, LITRES_AT_FULL } from './yield.ts';

/** What weather and age alone say of a tap between two emptyings. */
export interface RunShare {
  /** sum of what a fresh hole gives, times what is left of it by its age: 1 is one day of index 1 with a fresh hole */
  readonly share: number;
  /** how far the holes had closed, as the exponent of `ageing`, by the days on which it ran */
  readonly closed: number;
  /** day of the year on which the middle of it ran */
  readonly middle: number;
}

/**
 * What a tap had to give between two emptyings, by weather and age alone.
 * @param days of the year, the first of January being 0: the hole's, that of the emptying before, and the one of this emptying
 */
export function runShare(
  { gives }: Pick<SeasonCourse, 'gives'>,
  { drilled, after, until }: { readonly drilled: number; readonly after: number; readonly until: number },
  lifeDays: number
): RunShare {
  let [share, closed, middle] = [0, 0, 0];
  for (let at = Math.max(after + 1, drilled); at <= Math.min(until, gives.length - 1); at++) {
    const fresh = gives[at]! * ageing(at - drilled, lifeDays);
    share += fresh;
    middle += fresh * at;
    closed += fresh * ((at - drilled) / lifeDays) ** 2;
  }
  return { share, closed: share > 0 ? closed / share : 0, middle: share > 0 ? middle / share : until };
}

/** One collection: what a place gave, and what weather and age alone say of it. */
export interface Collection extends Omit<RunShare, 'middle'> {
  readonly place: string;
  readonly season: number;
  /** species of its trees; null where they are mixed or open */
  readonly species: string | null;
  readonly taps: number;
  readonly litres: number;
}

/** What a bush's own log says of its taps. */
export interface Calibration {
  /** litres that a fresh hole gives on a day of index 1, in a place like all and a season like all */
  readonly litresAtFull: number;
  /** factors on it, and what is unknown of each as a logarithm, 1 sd */
  readonly places: ReadonlyMap<string, Factor>;
  readonly seasons: ReadonlyMap<number, Factor>;
  readonly species: ReadonlyMap<string, Factor>;
  /** factor on how fast holes close: 1 as assumed */
  readonly closing: Factor;
  /** what is unknown of the level, as a logarithm, 1 sd */
  readonly sd: number;
  /** how far a collection strays from what is expected of it besides, as a logarithm, 1 sd */
  readonly daySd: number;
  readonly collections: number;
}

export interface Factor {
  readonly factor: number;
  readonly sd: number;
}

/** How far a bush usually strays from what practice says, as a logarithm, 1 sd. Working assumption. */
const LEVEL_SD = 0.5;
/** How far a place strays from its bush, as a logarithm, 1 sd. Working assumption. */
const PLACE_SD = 0.3;
/** How far a season strays from what its weather says, as a logarithm, 1 sd. Working assumption. */
const SEASON_SD = 0.25;
/** How far a species strays from all, as a logarithm, 1 sd. Working assumption. */
const SPECIES_SD = 0.2;
/** How far one collection strays besides: shade, wind, the hour it was emptied. Working assumption. */
const DAY_SD = 0.35;
/** How far the pace of closing strays from what is assumed, as a share of it, 1 sd. Working assumption. */
const CLOSING_SD = 0.4;
/** The index is no surer than this on a poor day, as a share of a full one. Working assumption. */
const INDEX_ERROR = 0.04;
/** A place and a species are told apart from so many collections on. */
const TOLD_FROM = 3;
/** Less than this is no more told from none, litres a tap. */
const NEXT_TO_NONE_L = 0.05;

/**
 * Learns from the bush's own log what its taps give: a level, how places, seasons and species differ, how fast holes close, and how
 * far single days stray: all from one linear mixed model of logarithms, each drawn towards what all have in common the less is known
 * of it. Without a log it says what common practice says.
 */
export function calibrate(collections: readonly Collection[]): Calibration {
  const used = collections.filter(({ taps, share }) => taps > 0 && share > INDEX_ERROR);
  const places = toldApart(
    used.map(({ place }) => place),
    TOLD_FROM
  );
  const species = toldApart(
    used.map((each) => each.species),
    TOLD_FROM
  );
  const seasons = toldApart(
    used.map(({ season }) => String(season)),
    1
  );
  const kinds: EffectKind[] = [
    { many: 1, sd: LEVEL_SD, learned: false },
    { many: 1, sd: CLOSING_SD, learned: false },
    { many: places.length, sd: PLACE_SD, learned: true },
    { many: species.length, sd: SPECIES_SD, learned: false },
    { many: seasons.length, sd: SEASON_SD, learned: false }
  ];
  const firsts = [0, 1, 2, 2 + places.length, 2 + places.length + species.length];
  const indexed = (names: readonly string[], first: number) => new Map(names.map((name, i) => [name, first + i]));
  const placeAt = indexed(places, firsts[2]!);
  const speciesAt = indexed(species, firsts[3]!);
  const seasonAt = indexed(seasons, firsts[4]!);
  const observed = used.map((each): Observed => {
    const effects = [placeAt.get(each.place), speciesAt.get(each.species ?? ''), seasonAt.get(String(each.season))];
    return {
      value: Math.log((each.litres / each.taps + NEXT_TO_NONE_L) / (each.share * LITRES_AT_FULL + NEXT_TO_NONE_L)),
      variance: (INDEX_ERROR / each.share) ** 2,
      sd: DAY_SD,
      of: [
        { effect: 0, times: 1 },
        { effect: 1, times: -each.closed },
        ...effects.flatMap((effect) => (effect === undefined ? [] : { effect, times: 1 }))
      ]
    };
  });
  const { effects, doubts, spread } =
    observed.length > 0
      ? pool(observed, kinds, { learnsSpread: true })
      : { effects: [0, 0], doubts: [LEVEL_SD, CLOSING_SD], spread: 1 };
  const factor = (at: number): Factor => ({ factor: Math.exp(effects[at]!), sd: doubts[at]! });
  const factors = <K>(of: ReadonlyMap<string, number>, key: (name: string) => K) =>
    new Map([...of].map(([name, at]) => [key(name), factor(at)]));
  return {
    litresAtFull: LITRES_AT_FULL * Math.exp(effects[0]!),
    places: factors(placeAt, String),
    seasons: factors(seasonAt, Number),
    species: factors(speciesAt, String),
    closing: { factor: Math.max(0.2, 1 + effects[1]!), sd: doubts[1]! },
    sd: doubts[0]!,
    daySd: DAY_SD * spread,
    collections: used.length
  };
}

/** Litres a tap, the middle and an 80 % interval. */
export interface ExpectedLitres {
  readonly litres: number;
  readonly low: number;
  readonly high: number;
}

/** What is expected of a tap between two emptyings, as a logarithm, and what may move it, 1 sd each. */
export interface LogExpected {
  readonly centre: number;
  /** the bush's level with how its holes close, and the species */
  readonly levelSd: number;
  readonly placeSd: number;
  readonly seasonSd: number;
  /** a single collection, and the weather's own error */
  readonly daySd: number;
}

/** What a tap of a place gives between two emptyings as a logarithm, and what moves it. */
export function logExpected(
  { share, closed }: Pick<RunShare, 'share' | 'closed'>,
  of: Pick<Collection, 'place' | 'species' | 'season'>,
  known: Calibration
): LogExpected {
  const own = (factor: Factor | undefined, usual: number): Factor => factor ?? { factor: 1, sd: usual };
  const place = own(known.places.get(of.place), PLACE_SD);
  const species = own(
    of.species === null ? undefined : known.species.get(of.species),
    of.species === null ? 0 : SPECIES_SD
  );
  const season = own(known.seasons.get(of.season), SEASON_SD);
  return {
    centre:
      Math.log(known.litresAtFull * share + NEXT_TO_NONE_L) +
      [place, species, season].reduce((sum, { factor }) => sum + Math.log(factor), 0) -
      closed * (known.closing.factor - 1),
    levelSd: Math.hypot(known.sd, closed * known.closing.sd, species.sd),
    placeSd: place.sd,
    seasonSd: season.sd,
    daySd: Math.hypot(known.daySd, Math.min(1, share > 0 ? INDEX_ERROR / share : 1))
  };
}

/** What a tap of a place gives between two emptyings, as the bush's own log has it. */
export function expectedLitres(...of: Parameters<typeof logExpected>): ExpectedLitres {
  const { centre, levelSd, placeSd, seasonSd, daySd } = logExpected(...of);
  const sd = Math.hypot(levelSd, placeSd, seasonSd, daySd);
  const at = (z: number) => Math.max(0, Math.exp(centre + z * sd) - NEXT_TO_NONE_L);
  return { litres: at(0), low: at(-Z_EIGHTY), high: at(Z_EIGHTY) };
}
