import { group } from 'd3-array';

import type { Rng } from '../math/index.ts';
import { beginningsOf, CLASSES, LEAVES, pullsFrom, WEIGHT_OF_STEPS, withAir, type Choice, type Leak } from './leak.ts';
import { TAP_FAULTS, type MissingTask, type SapThatCame, type TapFault } from './missingTask.ts';
import { covarianceOf, Straying } from './straying.ts';

/** What a tap still gives of what it would, by what is wrong with it. Working assumption: a dry one weeps. */
const STILL_GIVES: Readonly<Record<TapFault, number>> = { dry: 0.1, notSet: 0 };

/** What a gauge strays by, kPa, 1 sd: its zero, and its dial. Working assumption. */
const GAUGE_SD = 1.5;
/** Nobody knows what a pump pulls, kPa, 1 sd. */
const PUMP_SD = 40;
/** So much do the taps along a metre take off where all is tight, kPa, and 1 sd of it. Working assumption. */
const TIGHT = { kPaAMetre: 0.015, sd: 0.015 } as const;
/** Less than this is not told from none, as a share of a usual tap. */
const NEXT_TO_NONE = 0.02;

/** What cannot be is taken for so likely at the least: else nothing could be drawn. */
const LEAST_CHANCE = 1e-9;

/** A tap as a sum sees it: where it stands in it, and which of its sites lie above where the sum came out. */
interface InSum {
  readonly flow: number;
  readonly place: number;
  readonly tap: number;
  readonly sites: readonly number[];
}

/** What of a sum runs through a site. */
interface ThroughSite {
  readonly flow: number;
  readonly taps: readonly InSum[];
}

/** One way in which everything may be. */
export class Behind {
  readonly task: MissingTask;
  readonly faults: (TapFault | null)[];
  readonly leaks: (Leak | null)[];
  readonly #flow: Straying;
  readonly #vacuum: Straying;
  /** of each sum that came: what it holds in usual taps, and what each of its taps gives of it */
  readonly #sums: Float64Array;
  readonly #given: readonly Float64Array[];
  readonly #ofTap: readonly (readonly InSum[])[];
  readonly #ofSite: readonly (readonly ThroughSite[])[];
  readonly #gaugesOf: readonly (readonly number[])[];
  /** days by which a leak of each site may have begun, and how likely each is */
  readonly #beginnings: readonly (readonly { readonly began: number; readonly weight: number }[])[];
  /** where between the steps of `LEAVES` those of each site lie, 0..1 */
  readonly #shifts: number[];

  constructor(task: MissingTask) {
    const { taps, sites, came, gauges, together } = task;
    this.task = task;
    this.faults = taps.map(() => null);
    this.leaks = sites.map(() => null);
    this.#shifts = sites.map(() => 0.5);
    const days = [...came.filter(({ taps: of }) => of.length > 0), ...gauges].map(({ day }) => day);
    this.#beginnings = sites.map((site) => beginningsOf(site, days, task.today));
    const inSums = came.map(({ taps: of, through }, flow) =>
      of.map((tap, place): InSum => ({ flow, place, tap, sites: taps[tap]!.path.filter((site) => through.has(site)) }))
    );
    const byTap = group(inSums.flat(), ({ tap }) => tap);
    this.#ofTap = taps.map((_, tap) => byTap.get(tap) ?? []);
    this.#ofSite = sites.map((_, site) =>
      inSums.flatMap((of, flow): ThroughSite[] => {
        const through = of.filter((each) => each.sites.includes(site));
        return through.length > 0 ? [{ flow, taps: through }] : [];
      })
    );
    this.#given = inSums.map((of) => Float64Array.from(of, (each) => this.#gives(each)));
    this.#sums = Float64Array.from(
      came,
      ({ besides }, flow) => besides + NEXT_TO_NONE + this.#given[flow]!.reduce((sum, each) => sum + each, 0)
    );
    this.#flow = new Straying(
      covarianceOf(
        came.map(({ sd }) => sd),
        came.map((each) => together.map((_, k) => (each.with.includes(k) ? 1 : 0))),
        together
      ),
      came.map((each, i) => Math.log(inUsualTaps(task, each) / this.#sums[i]!))
    );
    const occasions = Math.max(-1, ...gauges.map(({ occasion }) => occasion)) + 1;
    const best = Array.from({ length: occasions }, (_, occasion) =>
      Math.max(...gauges.map((each) => (each.occasion === occasion ? each.kPa : -Infinity)))
    );
    this.#vacuum = new Straying(
      covarianceOf(
        gauges.map(() => GAUGE_SD),
        gauges.map(({ occasion, distanceM }) => [...best.map((_, k) => (k === occasion ? 1 : 0)), distanceM]),
        [...best.map(() => PUMP_SD), TIGHT.sd]
      ),
      // What a pump pulls is not known: it is counted from the best gauge of its occasion.
      gauges.map(({ kPa, occasion, distanceM }) => kPa - best[occasion]! + TIGHT.kPaAMetre * distanceM)
    );
    this.#gaugesOf = sites.map((_, site) => gauges.flatMap((each, i) => (each.sharedM[site]! > 0 ? i : [])));
  }

  /** What taps give today of what they would, in usual taps. */
  givesToday(taps: readonly number[], through: ReadonlySet<number>): number {
    const { today, taps: all } = this.task;
    return taps.reduce((sum, tap) => {
      const sites = all[tap]!.path.filter((site) => through.has(site));
      return sum + this.#faulty(tap, today) * this.#keeps(sites, today) * all[tap]!.weight;
    }, 0);
  }

  /** What is lost of what runs through a site on a day, 0..1. */
  lost(site: number, day: number): number {
    const leak = this.leaks[site]!;
    return leak && leak.began <= day && day < this.task.sites[site]!.until ? this.#share(site, leak.step) : 0;
  }

  /** The fault of a tap on a day. */
  faultOn(tap: number, day: number): TapFault | null {
    const { mended } = this.task.taps[tap]!;
    return mended && day < mended.day ? mended.fault : this.faults[tap]!;
  }

  drawTap(tap: number, rng: Rng): void {
    const of = this.#ofTap[tap]!;
    const flows = of.map(({ flow }) => flow);
    const was = this.faults[tap]!;
    const choices = [null, ...TAP_FAULTS].map((fault) => {
      this.faults[tap] = fault;
      const more = fault === was ? of.map(() => 0) : this.#moreOf(of);
      return { fault, more, log: this.#chance(tap, fault) + this.#flow.gain(flows, more) };
    });
    const { fault, more } = drawn(choices, rng);
    this.faults[tap] = fault;
    if (fault !== was) this.#settle(flows, more, of);
  }

  /** Draws whether a site leaks, and since when; then what is lost there. */
  drawSite(site: number, rng: Rng): void {
    const { chance } = this.task.sites[site]!;
    const was = this.leaks[site]!;
    const tried = (was?.step ?? Math.floor(rng.uniform() * LEAVES.steps)) % CLASSES;
    const steps = Array.from({ length: LEAVES.steps / CLASSES }, (_, i) => tried + i * CLASSES);
    this.#leakAt(site, null);
    const days = this.#beginnings[site]!;
    const choices: Choice[] = [{ leak: null, log: Math.log(1 - chance) }];
    let before: { readonly open: number; readonly choices: readonly Choice[] } | null = null;
    for (const { began, weight } of days) {
      const open = this.#openSince(site, began);
      const many = open.ran.length + open.read.length;
      // Where it shows in the same sums and gauges, it is as likely.
      const same: readonly Choice[] = before?.open === many ? before.choices : this.#leaking(site, open, steps);
      before = { open: many, choices: same };
      const log = Math.log(CLASSES * chance * weight);
      for (const each of same) choices.push({ ...each, leak: { ...each.leak!, began }, log: each.log + log });
    }
    const chosen = drawn(choices, rng);
    this.#leakAt(site, withAir(chosen, rng));
    if (this.leaks[site]) this.#drawStep(site, rng);
    this.#shift(site, rng);
  }

  /** What of a leak that began by a day shows. */
  #openSince(site: number, began: number) {
    const { came, gauges, sites } = this.task;
    const isOpen = (day: number) => began <= day && day < sites[site]!.until;
    return {
      ran: this.#ofSite[site]!.filter(({ flow }) => isOpen(came[flow]!.day)),
      read: this.#gaugesOf[site]!.filter((gauge) => isOpen(gauges[gauge]!.day))
    };
  }

  /** Ways in which a tight site may leak, and how likely each makes what came. */
  #leaking(
    site: number,
    { ran, read }: { readonly ran: readonly ThroughSite[]; readonly read: readonly number[] },
    steps: readonly number[]
  ): Choice[] {
    const pulls = pullsFrom(
      this.#vacuum.terms(
        read,
        read.map((gauge) => -this.task.gauges[gauge]!.sharedM[site]!)
      )
    );
    const flows = ran.map(({ flow }) => flow);
    const parts = ran.map(({ flow, taps }) => {
      const given = this.#given[flow]!;
      return taps.reduce((sum, { place }) => sum + given[place]!, 0) / this.#sums[flow]!;
    });
    return steps.map((step): Choice => {
      const share = this.#share(site, step);
      const more = parts.map((part) => Math.log1p(-share * part));
      // Shares are as likely to be small as large: steps stand closer where they are large.
      const log = Math.log((1 - share) / WEIGHT_OF_STEPS) + pulls.log + this.#flow.gain(flows, more);
      return { leak: { began: 0, step, pulls: 0 }, pulls, log };
    });
  }

  /** Draws what is lost at a site that leaks. */
  #drawStep(site: number, rng: Rng): void {
    const { began } = this.leaks[site]!;
    this.#leakAt(site, null);
    const all = Array.from({ length: LEAVES.steps }, (_, step) => step);
    const choices = this.#leaking(site, this.#openSince(site, began), all);
    const chosen = drawn(choices, rng);
    this.#leakAt(site, withAir({ ...chosen, leak: { ...chosen.leak!, began } }, rng));
  }

  /** The steps of a site lie anywhere between: they are moved all together. */
  #shift(site: number, rng: Rng): void {
    const leak = this.leaks[site]!;
    const [was, shift] = [this.#shifts[site]!, rng.uniform()];
    if (!leak) {
      this.#shifts[site] = shift;
      return;
    }
    const before = 1 - this.#share(site, leak.step);
    this.#shifts[site] = shift;
    const of = this.#ofSite[site]!.flatMap(({ taps }) => taps);
    const { flows, more } = this.#moreOfAll(of);
    const odds = Math.log((1 - this.#share(site, leak.step)) / before) + this.#flow.gain(flows, more);
    if (Math.log(rng.uniform()) < odds) this.#settle(flows, more, of);
    else this.#shifts[site] = was;
  }

  /** What is lost at a site by a step, 0..1. */
  #share(site: number, step: number): number {
    return 1 - Math.exp(-LEAVES.apart * (step + this.#shifts[site]!));
  }

  /** Two taps may be mistaken for each other: what is wrong with them is exchanged. */
  exchangeTaps(rng: Rng): void {
    const wrong = this.faults.flatMap((fault, tap) => (fault ? tap : []));
    if (wrong.length === 0) return;
    const [a, b] = [anyOf(wrong, rng), Math.floor(rng.uniform() * this.faults.length)];
    const [faultA, faultB] = [this.faults[a]!, this.faults[b]!];
    if (faultA === faultB) return;
    const odds = this.#chance(a, faultB) + this.#chance(b, faultA) - this.#chance(a, faultA) - this.#chance(b, faultB);
    [this.faults[a], this.faults[b]] = [faultB, faultA];
    const of = [...this.#ofTap[a]!, ...this.#ofTap[b]!];
    const { flows, more } = this.#moreOfAll(of);
    if (Math.log(rng.uniform()) < odds + this.#flow.gain(flows, more)) this.#settle(flows, more, of);
    else [this.faults[a], this.faults[b]] = [faultA, faultB];
  }

  /** Two sites may be mistaken for each other: the leak of one is moved to the other. */
  exchangeSites(rng: Rng): void {
    const leaking = this.leaks.flatMap((leak, site) => (leak ? site : []));
    if (leaking.length === 0) return;
    const [a, b] = [anyOf(leaking, rng), Math.floor(rng.uniform() * this.leaks.length)];
    const leak = this.leaks[a]!;
    const isAlike = this.#gaugesOf[a]!.length > 0 === this.#gaugesOf[b]!.length > 0;
    const weight = (site: number) => this.#beginnings[site]!.find(({ began }) => began === leak.began)?.weight ?? 0;
    if (this.leaks[b] || !isAlike || weight(b) === 0) return;
    const logit = (site: number) => {
      const { chance } = this.task.sites[site]!;
      return Math.log((chance / (1 - chance)) * weight(site) * (1 - this.#share(site, leak.step)));
    };
    [this.leaks[a], this.leaks[b]] = [null, leak];
    const of = [...new Set([a, b].flatMap((site) => this.#ofSite[site]!.flatMap(({ taps }) => taps)))];
    const { flows, more } = this.#moreOfAll(of);
    const gauges = [...new Set([...this.#gaugesOf[a]!, ...this.#gaugesOf[b]!])];
    const off = gauges.map((gauge) => this.#pulled(b, leak, gauge) - this.#pulled(a, leak, gauge));
    const odds = logit(b) - logit(a) + this.#flow.gain(flows, more) + this.#vacuum.gain(gauges, off);
    if (Math.log(rng.uniform()) < odds) {
      this.#settle(flows, more, of);
      this.#vacuum.expect(gauges, off);
    } else [this.leaks[a], this.leaks[b]] = [leak, null];
  }

  #chance(tap: number, fault: TapFault | null): number {
    const { chances } = this.task.taps[tap]!;
    return Math.log(Math.max(LEAST_CHANCE, fault === null ? 1 - chances.dry - chances.notSet : chances[fault]));
  }

  #faulty(tap: number, day: number): number {
    const fault = this.faultOn(tap, day);
    return fault ? STILL_GIVES[fault] : 1;
  }

  #keeps(sites: readonly number[], day: number): number {
    let kept = 1;
    for (const site of sites) kept *= 1 - this.lost(site, day);
    return kept;
  }

  #gives({ flow, tap, sites }: InSum): number {
    const { day } = this.task.came[flow]!;
    return this.task.taps[tap]!.weight * this.#faulty(tap, day) * this.#keeps(sites, day);
  }

  /** What is expected of sums more than so far, as logarithms, where one tap of each changed. */
  #moreOf(of: readonly InSum[]): number[] {
    return of.map((each) =>
      Math.log1p((this.#gives(each) - this.#given[each.flow]![each.place]!) / this.#sums[each.flow]!)
    );
  }

  /** The same, where several of each may have. */
  #moreOfAll(of: readonly InSum[]): { readonly flows: readonly number[]; readonly more: readonly number[] } {
    const byFlow = group(of, ({ flow }) => flow);
    const flows = [...byFlow.keys()];
    const more = flows.map((flow) => {
      const change = byFlow
        .get(flow)!
        .reduce((sum, each) => sum + this.#gives(each) - this.#given[flow]![each.place]!, 0);
      return Math.log1p(change / this.#sums[flow]!);
    });
    return { flows, more };
  }

  #settle(flows: readonly number[], more: readonly number[], of: readonly InSum[]): void {
    for (const [k, flow] of flows.entries()) this.#sums[flow]! *= Math.exp(more[k]!);
    for (const each of of) this.#given[each.flow]![each.place] = this.#gives(each);
    this.#flow.expect(flows, more);
  }

  /** kPa that a leak takes off at a gauge; negative. */
  #pulled(site: number, leak: Leak | null, gauge: number): number {
    const { day, sharedM } = this.task.gauges[gauge]!;
    const isOpen = leak !== null && leak.began <= day && day < this.task.sites[site]!.until;
    return isOpen ? -leak.pulls * sharedM[site]! : 0;
  }

  /** From now on a site leaks so, or not at all. */
  #leakAt(site: number, leak: Leak | null): void {
    const was = this.leaks[site]!;
    if (was === leak) return;
    this.leaks[site] = leak;
    const of = this.#ofSite[site]!.flatMap(({ taps }) => taps);
    const { flows, more } = this.#moreOfAll(of);
    this.#settle(flows, more, of);
    const gauges = this.#gaugesOf[site]!;
    this.#vacuum.expect(
      gauges,
      gauges.map((gauge) => this.#pulled(site, leak, gauge) - this.#pulled(site, was, gauge))
    );
  }
}

const anyOf = (of: readonly number[], rng: Rng): number => of[Math.floor(rng.uniform() * of.length)]!;

/** What came, in usual taps of which as much as is usual is wrong. */
function inUsualTaps({ taps: all }: MissingTask, { taps, besides, litres, usualLitres }: SapThatCame): number {
  const usual = taps.reduce(
    (sum, tap) => {
      const { weight, chances } = all[tap]!;
      return {
        whole: sum.whole + weight,
        given:
          sum.given + weight * TAP_FAULTS.reduce((left, fault) => left - chances[fault] * (1 - STILL_GIVES[fault]), 1)
      };
    },
    { whole: besides, given: besides }
  );
  const part = usual.whole > 0 ? usual.given / usual.whole : 1;
  return (litres / usualLitres) * part + NEXT_TO_NONE;
}

/** One of several by their chances, told as logarithms. */
function drawn<C extends { readonly log: number }>(choices: readonly C[], rng: Rng): C {
  const most = Math.max(...choices.map(({ log }) => log));
  const chances = choices.map(({ log }) => Math.exp(log - most));
  let left = rng.uniform() * chances.reduce((sum, each) => sum + each, 0);
  return choices.find((_, i) => (left -= chances[i]!) < 0) ?? choices.at(-1)!;
}
