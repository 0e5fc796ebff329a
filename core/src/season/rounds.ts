import { weightedQuantile } from '../math/index.ts';
import { keepsHours } from '../sap/index.ts';

/** A place that is emptied by hand: a bucket, a cluster of them, the vessel of a line. */
export interface CollectingPlace {
  readonly id: string;
  readonly taps: number;
  /** what its vessels hold together, litres */
  readonly holdsLitres: number;
  /** what is in them now, litres, and how far it has turned, 0..1 */
  readonly litres: number;
  readonly turned: number;
  /** what going there costs besides the round, in litres; as `RoundCosts` says where nothing is said */
  readonly visitLitres?: number;
}

/** One way in which the coming hours may go. */
export interface HoursAhead {
  readonly weight: number;
  /** what a tap gives in each hour, litres */
  readonly litresATap: Float64Array;
  /** °C */
  readonly temperatures: Float64Array;
}

/** What a round costs, in litres of sap that nobody would go for alone: hours of people have another price in every bush. */
export interface RoundCosts {
  /** going at all */
  readonly roundLitres: number;
  /** each place besides */
  readonly placeLitres: number;
}

/** A round of collecting. */
export interface PlannedRound {
  /** hours from now */
  readonly hour: number;
  readonly places: readonly string[];
  /** what is carried, on average and in one of ten cases at the most */
  readonly litres: number;
  readonly highLitres: number;
}

/** The rounds of the coming hours, and what they leave to be lost. */
export interface RoundsPlan {
  readonly rounds: readonly PlannedRound[];
  /** what runs over or spoils all the same, litres, on average */
  readonly lostLitres: number;
  /** what would be lost without any round */
  readonly lostWithout: number;
  /** when each place first runs over or spoils without a round, hours from now, in one of ten cases; null within these hours never */
  readonly firstLoss: ReadonlyMap<string, number | null>;
}

/** What becomes of a place's sap with visits at some hours. */
interface Outcome {
  readonly lost: number;
  readonly firstLoss: number;
  /** by visit */
  readonly carried: readonly number[];
}

/** One way in which the hours may go, and by what share sap turns in each of them. */
interface Way {
  readonly weight: number;
  readonly litresATap: Float64Array;
  readonly turns: Float64Array;
}

/** Sap that nobody collects until the end of these hours is not lost yet: it counts as far as it has turned. */
function goesOn(place: CollectingPlace, { litresATap, turns }: Way, visits: readonly number[]): Outcome {
  let { litres, turned } = place;
  let [lost, firstLoss, next] = [0, Infinity, 0];
  const carried: number[] = [];
  const loses = (what: number, hour: number) => {
    lost += what;
    firstLoss = Math.min(firstLoss, hour);
  };
  for (let hour = 0; hour < litresATap.length; hour++) {
    if (visits[next] === hour) {
      carried.push(litres);
      [litres, turned] = [0, 0];
      next += 1;
    }
    const came = place.taps * litresATap[hour]!;
    // Fresh sap thins what has turned.
    turned = litres + came > 0 ? (turned * litres) / (litres + came) : 0;
    litres += came;
    if (litres > place.holdsLitres) {
      loses(litres - place.holdsLitres, hour);
      litres = place.holdsLitres;
    }
    turned += turns[hour]!;
    if (turned >= 1) {
      if (litres > 0) loses(litres, hour);
      [litres, turned] = [0, 0];
    }
  }
  return { lost: lost + litres * turned, firstLoss, carried };
}

/**
 * Which rounds are worth going in the coming hours, and to which places, over the ways in which they may go: what runs over and
 * what spoils against what going costs. "No round" is an answer. Begins with none and takes, adds and leaves rounds as long as that
 * saves more than it costs; then each place is left out of the rounds that do it no good.
 * @param hours at which a round may begin, from now, in their order
 */
export function planRounds(
  places: readonly CollectingPlace[],
  ahead: readonly HoursAhead[],
  { hours, costs }: { readonly hours: readonly number[]; readonly costs: RoundCosts }
): RoundsPlan {
  const all = ahead.reduce((sum, { weight }) => sum + weight, 0);
  const ways = ahead.map(({ weight, litresATap, temperatures }): Way => {
    return { weight: weight / all, litresATap, turns: temperatures.map((tempC) => 1 / keepsHours(tempC)) };
  });
  const expected = (place: CollectingPlace, visits: readonly number[]) =>
    ways.reduce((sum, way) => sum + way.weight * goesOn(place, way, visits).lost, 0);
  const memo = new Map<string, { readonly visits: readonly number[]; readonly worth: number }>();
  /** the visits among these rounds that are worth a place's while, and what is lost and spent there then */
  const bestVisits = (place: CollectingPlace, rounds: readonly number[]) => {
    // Places alike in all that counts are reckoned once.
    const { taps, holdsLitres, litres, turned, visitLitres } = place;
    const key = `${taps} ${holdsLitres} ${litres} ${turned} ${visitLitres} ${rounds.join()}`;
    const known = memo.get(key);
    if (known) return known;
    let visits = rounds;
    const visit = place.visitLitres ?? costs.placeLitres;
    let worth = expected(place, visits) + visit * visits.length;
    for (const round of rounds) {
      const fewer = visits.filter((hour) => hour !== round);
      const left = expected(place, fewer) + visit * fewer.length;
      if (left <= worth) [visits, worth] = [fewer, left];
    }
    const found = { visits, worth };
    memo.set(key, found);
    return found;
  };
  const costOf = (rounds: readonly number[]) =>
    places.reduce((sum, place) => sum + bestVisits(place, rounds).worth, 0) + costs.roundLitres * rounds.length;

  let rounds: readonly number[] = [];
  let cost = costOf(rounds);
  for (;;) {
    let best = { rounds, cost };
    for (const next of neighbours(rounds, hours)) {
      const tried = costOf(next);
      if (tried < best.cost - 1e-9) best = { rounds: next, cost: tried };
    }
    if (best.rounds === rounds) break;
    ({ rounds, cost } = best);
  }

  const visitsOf = new Map(places.map((place) => [place, bestVisits(place, rounds).visits]));
  const outcomes = ways.map((way) => ({
    weight: way.weight,
    ofPlaces: places.map((place) => ({ place, ...goesOn(place, way, visitsOf.get(place)!) }))
  }));
  return {
    rounds: rounds.flatMap((hour): PlannedRound[] => {
      const there = places.filter((place) => visitsOf.get(place)!.includes(hour));
      const loads = outcomes.map(({ weight, ofPlaces }) => ({
        weight,
        value: ofPlaces.reduce((sum, { place, carried }) => {
          const at = visitsOf.get(place)!.indexOf(hour);
          return at < 0 ? sum : sum + carried[at]!;
        }, 0)
      }));
      const litres = loads.reduce((sum, { weight, value }) => sum + weight * value, 0);
      return there.length > 0
        ? [{ hour, places: there.map(({ id }) => id), litres, highLitres: weightedQuantile(loads, 0.9) }]
        : [];
    }),
    lostLitres: outcomes.reduce(
      (sum, { weight, ofPlaces }) => sum + weight * ofPlaces.reduce((lost, each) => lost + each.lost, 0),
      0
    ),
    lostWithout: places.reduce((sum, place) => sum + expected(place, []), 0),
    firstLoss: new Map(
      places.map((place) => {
        const firsts = ways.map((way) => ({ weight: way.weight, value: goesOn(place, way, []).firstLoss }));
        const first = weightedQuantile(firsts, 0.1);
        return [place.id, Number.isFinite(first) ? first : null];
      })
    )
  };
}

/** One round more, one less, or one at another hour. */
function neighbours(rounds: readonly number[], hours: readonly number[]): number[][] {
  const inOrder = (list: readonly number[]) => [...list].sort((a, b) => a - b);
  const free = hours.filter((hour) => !rounds.includes(hour));
  return [
    ...free.map((hour) => inOrder([...rounds, hour])),
    ...rounds.map((hour) => rounds.filter((each) => each !== hour)),
    ...rounds.flatMap((hour) => free.map((other) => inOrder([...rounds.filter((each) => each !== hour), other])))
  ];
}
