import { quantiles, type Rng } from '../math/index.ts';
import { Behind } from './behind.ts';
import type { MissingTask, TapFault } from './missingTask.ts';

/** Chances of everything that may be wrong, given what came. */
export interface Missing {
  /** of each tap, today */
  readonly taps: readonly Readonly<Record<TapFault, number>>[];
  /** of each site: chance that it leaks today, what it loses of what runs through it where it does, and since which day of the year */
  readonly sites: readonly { readonly leaks: number; readonly share: number; readonly since: number }[];
  /** what those asked about give today of what they would, 0..1, and the band that holds eight of ten */
  readonly asked: readonly { readonly share: number; readonly low: number; readonly high: number }[];
}

/** Sweeps of each chain, and those at its beginning that are forgotten. */
const SWEEPS = { all: 190, forgotten: 40 } as const;
/** Chains that begin anew, each with nothing wrong. */
const CHAINS = 2;
/** Exchanges tried in every sweep, of two taps and of two sites. */
const EXCHANGES = 4;

/**
 * What is wrong behind mixed lines: chances of dry taps, spouts that were never set and leaks, from what came of them, what came of
 * others, and gauges. Everything that may be wrong is drawn in turn given all the rest (Gibbs' sampler, with exchanges between
 * places that look alike); how places, seasons and days stray is normal, and summed over.
 */
export function whatIsMissing(task: MissingTask, rng: Rng): Missing {
  const sums = new Sums(task);
  for (let chain = 0; chain < CHAINS; chain++) {
    const state = new Behind(task);
    for (let sweep = 0; sweep < SWEEPS.all; sweep++) {
      for (const tap of task.taps.keys()) state.drawTap(tap, rng);
      for (const site of task.sites.keys()) state.drawSite(site, rng);
      for (let i = 0; i < EXCHANGES; i++) {
        state.exchangeTaps(rng);
        state.exchangeSites(rng);
      }
      if (sweep >= SWEEPS.forgotten) sums.add(state);
    }
  }
  return sums.told();
}

/** What was drawn, added up. */
class Sums {
  readonly #task: MissingTask;
  readonly #taps: Record<TapFault, number>[];
  readonly #sites: { leaks: number; share: number; since: number[] }[];
  readonly #asked: number[][];
  #draws = 0;

  constructor(task: MissingTask) {
    this.#task = task;
    this.#taps = task.taps.map(() => ({ dry: 0, notSet: 0 }));
    this.#sites = task.sites.map(() => ({ leaks: 0, share: 0, since: [] }));
    this.#asked = task.asked.map(() => []);
  }

  add(state: Behind): void {
    const { today, taps, asked } = this.#task;
    this.#draws += 1;
    for (const [tap, sum] of this.#taps.entries()) {
      const fault = state.faultOn(tap, today);
      if (fault) sum[fault] += 1;
    }
    for (const [site, sum] of this.#sites.entries()) {
      const lost = state.lost(site, today);
      if (lost === 0) continue;
      sum.leaks += 1;
      sum.share += lost;
      sum.since.push(state.leaks[site]!.began);
    }
    for (const [i, { taps: of, through }] of asked.entries()) {
      const whole = of.reduce((sum, tap) => sum + taps[tap]!.weight, 0);
      this.#asked[i]!.push(whole > 0 ? state.givesToday(of, through) / whole : 1);
    }
  }

  told(): Missing {
    const draws = this.#draws;
    return {
      taps: this.#taps.map(({ dry, notSet }) => ({ dry: dry / draws, notSet: notSet / draws })),
      sites: this.#sites.map(({ leaks, share, since }) => ({
        leaks: leaks / draws,
        share: leaks > 0 ? share / leaks : 0,
        since: since.length > 0 ? quantiles(since, [0.5])[0]! : this.#task.today
      })),
      asked: this.#asked.map((shares) => ({
        share: shares.reduce((sum, each) => sum + each / shares.length, 0),
        low: quantiles(shares, [0.1])[0]!,
        high: quantiles(shares, [0.9])[0]!
      }))
    };
  }
}
