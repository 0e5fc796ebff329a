import { once } from 'node:events';
import { isMainThread, parentPort, Worker } from 'node:worker_threads';
import { cpus } from 'node:os';

/**
 * The planned rotation beside simple ways, lived through on the same hidden trunks: the settings that are always named, and forty
 * that chance chose. Said of each: mean stained share over seasons 0 to 49 as the plan weighs them, then plainly, and over seasons 25 to
 * 49, in ten thousandths, and by how much the best simple way is better, with its paired 99.9 % interval.
 */
const SEASONS = 50;
const TREES = 2000;
/** Two-sided, 99.9 %. */
const Z = 3.29;
const ALLOWED = 0.0003;
/** A hole this near to the top or bottom of the band is near its end, mm. */
const ENDS_MM = 25;

/** @typedef {import('../../core/src/rotation/index.ts').RuleTree} RuleTree */
/** @typedef {{ name: string, tree: RuleTree, line?: object }} Setting */

const tree = (/** @type {number} */ dib, /** @type {number} */ ringMm, more = {}) => ({
  woodRadiusMm: dib / 2,
  ringMm,
  bitMm: 7.9375,
  depthMm: 38.1,
  lowestMm: 600,
  highestMm: 1210,
  taps: 1,
  ...more
});

/** @returns {Setting[]} */
const named = () => [
  { name: 'DIB 300, ring 1.5', tree: tree(300, 1.5) },
  { name: 'DIB 300, ring 0.75', tree: tree(300, 0.75) },
  { name: 'DIB 450, ring 1.5, 2 taps', tree: tree(450, 1.5, { taps: 2 }) },
  { name: 'DIB 250, ring 0.5, band 400', tree: tree(250, 0.5, { highestMm: 1000 }) },
  { name: 'DIB 250, ring 0.75, band 300', tree: tree(250, 0.75, { highestMm: 900 }) }
];

/** @param {() => number} uniform @param {number} nth @returns {Setting} */
function chosen(uniform, nth) {
  const between = (/** @type {number} */ a, /** @type {number} */ b) => a + (b - a) * uniform();
  const dib = Math.round(between(220, 700));
  const ringMm = Number((0.3 * (2.5 / 0.3) ** uniform()).toFixed(2));
  const bandMm = Math.round(between(300, 1200));
  const taps = 1 + Math.floor(4 * uniform());
  const past = uniform() < 0.5 ? 0 : Math.round(between(5, 30));
  const line = uniform() < 0.2 ? { bearingDeg: 360 * uniform(), lengthMm: between(600, 1000) } : null;
  return {
    name: `${nth}: DIB ${dib}, ring ${ringMm}, band ${bandMm}, ${taps} taps, ${past} old holes${line ? `, line ${Math.round(line.lengthMm)}` : ''}`,
    ...(line ? { line } : {}),
    tree: tree(dib, ringMm, {
      highestMm: 600 + bandMm,
      taps,
      past: Array.from({ length: past }, (_, i) => ({
        bearingDeg: 360 * uniform(),
        heightMm: 600 + bandMm * uniform(),
        buriedMm: (1 + Math.floor(i / taps)) * ringMm,
        depthMm: 38.1
      }))
    })
  };
}

if (!isMainThread) {
  const [core, { seededRng }, { DEFAULT_COLUMNS }] = await Promise.all([
    import('../../core/dist/rotation/index.js'),
    import('../../core/dist/math/index.js'),
    import('../../core/dist/trunk/index.js')
  ]);
  const settings = named();
  const rng = seededRng(40);
  for (let i = 1; i <= 40; i++) settings.push(chosen(() => rng.uniform(), i));
  parentPort?.on('message', (/** @type {number} */ i) => {
    const setting = settings[i];
    parentPort?.postMessage(setting ? { i, ...judged(setting) } : null);
  });

  /** @param {Setting} setting */
  function judged({ name, tree: bare, line }) {
    const model = DEFAULT_COLUMNS;
    const allowed = line && reachOf(bare, /** @type {{ bearingDeg: number, lengthMm: number }} */ (line));
    const of = allowed ? { ...bare, allowed } : bare;
    const soon = core.rotationTaskOf(of, model, 0);
    const ahead = Math.max(soon.taps.length, SEASONS + 15);
    const task = { ...soon, taps: Array(ahead).fill(of.taps) };
    const timed = (/** @type {() => readonly { season: number }[]} */ plan) => {
      const from = performance.now();
      return { plan: plan(), ms: performance.now() - from };
    };
    const cold = timed(() => core.planRotation(soon));
    const ways = {
      ours: timed(() => core.livedRotation(of, model, SEASONS)),
      greedy: timed(() => core.planGreedily(task)),
      even: timed(() => core.planEvenly(task)),
      straight: timed(() => straightforward(task))
    };
    const lived = Object.fromEntries(
      Object.entries(ways).map(([way, { plan, ms }]) => {
        const rule = (/** @type {number} */ season) => plan.filter((hole) => hole.season === season);
        const run = (/** @type {number} */ from) =>
          core.liveThrough(/** @type {never} */ (rule), of, model, { seasons: SEASONS, trees: TREES, from, seed: 77 });
        const [all, late] = [run(0), run(25)];
        const weights = core.weightsOf(task).slice(0, SEASONS);
        const weighed = mean(all.lostBySeason.map((lost, season) => lost * (weights[season] ?? 0))) / mean(weights);
        const decades = [0, 1, 2, 3, 4].map((d) => mean(all.lostBySeason.slice(10 * d, 10 * d + 10)));
        const holes = plan.filter(({ season }) => season < SEASONS).length;
        return [way, { all: all.lostByTree, late: late.lostByTree, weighed, decades, ms, holes }];
      })
    );
    const { ours, ...simple } = lived;
    const [worst = { way: 'none', part: 'all', better: 0, from: 0, to: 0 }] = Object.entries(simple)
      // Whoever leaves holes out loses nothing there.
      .filter(([way, { holes }]) => way !== 'straight' && holes >= ours.holes)
      .flatMap(([way, theirs]) =>
        /** @type {const} */ (['all', 'late']).map((part) => ({ way, part, ...paired(ours[part], theirs[part]) }))
      )
      .sort((a, b) => b.from - a.from);
    const says = Object.fromEntries(
      Object.entries(lived).map(([way, { all, late, weighed, decades, ms, holes }]) => [
        way,
        { all: mean(all), late: mean(late), weighed, decades, ms, holes }
      ])
    );
    return { name, says, worst, coldMs: cold.ms, ends: endsOf(of, soon, /** @type {any} */ (cold.plan)) };
  }

  /**
   * How many planned holes lie near the ends of the band, and what it costs to keep off them.
   * @param {RuleTree} of @param {import('../../core/src/rotation/index.ts').RotationTask} task
   * @param {readonly { season: number, heightMm: number, lost: number }[]} plan
   */
  function endsOf({ lowestMm, highestMm }, task, plan) {
    const near = (/** @type {{ heightMm: number }} */ { heightMm }) =>
      heightMm < lowestMm + ENDS_MM || heightMm > highestMm - ENDS_MM;
    const { allowed = () => true } = task;
    const inside = core.planRotation({ ...task, allowed: (spot, now) => allowed(spot, now) && !near(spot) });
    const lost = (/** @type {readonly { season: number, lost: number }[]} */ holes) =>
      mean(holes.filter(({ season }) => season < SEASONS).map((hole) => hole.lost));
    return { share: plan.filter(near).length / plan.length, costs: lost(inside) - lost(plan) };
  }

  /** Sap runs down a drop line. @param {RuleTree} of @param {{ bearingDeg: number, lengthMm: number }} line */
  function reachOf({ woodRadiusMm, lowestMm }, { bearingDeg, lengthMm }) {
    return (/** @type {{ bearingDeg: number, heightMm: number }} */ spot) => {
      const apart = ((spot.bearingDeg - bearingDeg + 540) % 360) - 180;
      return Math.hypot((apart * Math.PI * woodRadiusMm) / 180, spot.heightMm - lowestMm) <= lengthMm - 100;
    };
  }

  /**
   * The annealing of a textbook: holes moved one at a time, anywhere or a little, the sum over pairs asked of the kernel anew.
   * @param {import('../../core/src/rotation/index.ts').RotationTask} task
   */
  function straightforward(task) {
    const { kernel, past, taps, woodRadiusMm, ringMm, practice } = task;
    const { lowestMm, highestMm, depthMm } = practice;
    const random = seededRng(5);
    const allowed = task.allowed ?? (() => true);
    const anywhere = () => {
      for (let i = 0; ; i++) {
        const spot = {
          bearingDeg: 360 * random.uniform(),
          heightMm: lowestMm + random.uniform() * (highestMm - lowestMm)
        };
        if (i > 200 || allowed(spot, false)) return spot;
      }
    };
    const holes = taps
      .slice(0, SEASONS + 15)
      .flatMap((many, season) => Array.from({ length: many }, () => ({ season, ...anywhere() })));
    const shared = (/** @type {number} */ mm) => Math.max(0, 1 - mm / depthMm);
    const meets = (
      /** @type {any} */ a,
      /** @type {any} */ b,
      /** @type {number} */ buried,
      /** @type {number} */ season
    ) => {
      const round = 2 * Math.PI * (woodRadiusMm + season * ringMm);
      const side = ((((a.bearingDeg - b.bearingDeg) % 360) + 540) % 360) - 180;
      return shared(buried) === 0 ? 0 : shared(buried) * kernel.at((side / 360) * round, a.heightMm - b.heightMm);
    };
    const costOf = (/** @type {number} */ i, /** @type {any} */ at) => {
      let sum = 0;
      for (const [k, other] of holes.entries()) {
        if (k === i) continue;
        const apart = Math.abs(other.season - at.season);
        if (apart === 0) {
          const side =
            Math.abs(((((other.bearingDeg - at.bearingDeg) % 360) + 540) % 360) - 180) * (Math.PI / 180) * woodRadiusMm;
          if (side < 152.4 || Math.hypot(side, other.heightMm - at.heightMm) < 300) sum += 5;
          continue;
        }
        const [earlier, later] = other.season < at.season ? [other, at] : [at, other];
        sum += meets(later, earlier, apart * ringMm, later.season);
      }
      for (const old of past) sum += meets(at, old, old.buriedMm + at.season * ringMm, at.season);
      return sum;
    };
    const steps = 600 * holes.length;
    for (let step = 0; step < steps; step++) {
      const heat = 0.05 * 0.002 ** (step / steps);
      const i = Math.floor(random.uniform() * holes.length);
      const now = /** @type {any} */ (holes[i]);
      const little = random.uniform() < 0.8;
      const to = little
        ? {
            bearingDeg: now.bearingDeg + (random.uniform() - 0.5) * 30,
            heightMm: Math.min(highestMm, Math.max(lowestMm, now.heightMm + (random.uniform() - 0.5) * 200))
          }
        : anywhere();
      if (!allowed(to, false)) continue;
      const moved = { ...now, ...to };
      const gain = costOf(i, now) - costOf(i, moved);
      if (gain >= 0 || random.uniform() < Math.exp(gain / heat)) holes[i] = moved;
    }
    return holes;
  }
}

/** @param {ArrayLike<number>} values */
const mean = (values) => Array.from(values).reduce((a, b) => a + b, 0) / values.length;

/** How much better theirs is, in the mean of pairs. @param {Float64Array} ours @param {Float64Array} theirs */
function paired(ours, theirs) {
  const apart = ours.map((value, i) => value - theirs[i]);
  const middle = mean(apart);
  const sd = Math.sqrt(mean(apart.map((value) => (value - middle) ** 2)));
  const half = (Z * sd) / Math.sqrt(apart.length);
  return { better: middle, from: middle - half, to: middle + half };
}

/** Lives all settings through, two at a time, and says what came of it. */
export async function benchRotation() {
  const many = 45;
  /** @type {any[]} */
  const found = [];
  let next = 0;
  await Promise.all(
    Array.from({ length: Math.min(2, cpus().length) }, async () => {
      const worker = new Worker(new URL(import.meta.url));
      while (next < many) {
        const i = next++;
        worker.postMessage(i);
        // Rejects when the worker fails.
        [found[i]] = await once(worker, 'message');
        console.log(line(found[i]));
      }
      await worker.terminate();
    })
  );
  const beaten = found.filter(({ worst }) => worst.from > ALLOWED);
  console.log(
    `${beaten.length} of ${found.length} settings where a simple way is surely better by more than ${ALLOWED}`
  );
  for (const { name, worst } of [...found].sort((a, b) => b.worst.from - a.worst.from).slice(0, 3))
    console.log(`  ${name}: ${worst.way} ${worst.part} ${ten(worst.from)} to ${ten(worst.to)}`);
  return found;
}

const ten = (/** @type {number} */ share) => (1e4 * share).toFixed(1);
/** @param {any} setting */
function line({ name, says, worst, coldMs, ends }) {
  const ways = Object.entries(says).map(
    ([way, { all, late, weighed, decades, holes }]) =>
      `${way} ${ten(weighed)}, ${ten(all)}/${ten(late)} [${decades.map(ten).join(' ')}]${holes === says.ours.holes ? '' : ` ${holes} of ${says.ours.holes} holes`}`
  );
  return `${name}: ${ways.join(', ')}; ${Math.round(100 * ends.share)} % near the ends, keeping off costs ${ten(ends.costs)}; cold ${Math.round(coldMs)} ms, lived ${Math.round(says.ours.ms)}; ${worst.way} ${worst.part} better by ${ten(worst.from)} to ${ten(worst.to)}`;
}
