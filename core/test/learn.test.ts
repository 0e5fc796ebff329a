import { describe, expect, it } from 'vitest';

import { shortOrLong } from '../../testing/long.ts';
import { type BarkSpot } from '../src/geometry/index.ts';
import { seededRng } from '../src/math/index.ts';
import { pattern, sunnySide } from '../src/rotation/rules.ts';
import { HiddenTrunk, type RuleTree } from '../src/rotation/index.ts';
import {
  alongPath,
  columnBearing,
  crossSection,
  DEFAULT_COLUMNS,
  DEFAULT_PRACTICE,
  drawTrunks,
  gridFor,
  heatMap,
  judgeSpot,
  learnTrunk,
  lengthwise,
  readingChances,
  readShavings,
  rowHeight,
  trunkToday,
  type ColumnModel,
  type OldHole,
  type SeenShavings,
  type Trunk
} from '../src/trunk/index.ts';

const TREE: RuleTree = {
  woodRadiusMm: 150,
  ringMm: 1.2,
  bitMm: 7.9375,
  depthMm: 38.1,
  lowestMm: 700,
  highestMm: 1300,
  taps: 1
};
const mean = (values: ArrayLike<number>) => Array.from(values).reduce((a, b) => a + b, 0) / values.length;

/** A trunk tapped by a rule that meets old wood, its shavings read as people read them. */
function tapped(k: number, seasons: number, model: ColumnModel = DEFAULT_COLUMNS) {
  const rng = seededRng(4000 + k);
  const hidden = new HiddenTrunk(TREE, model, rng);
  const rule = k % 2 ? pattern : sunnySide;
  const meant: (readonly BarkSpot[])[] = [];
  const holes: OldHole[] = [];
  const seen: SeenShavings[] = [];
  for (let season = 0; season < seasons; season++) {
    const spots = rule(season, TREE, meant, rng);
    meant.push(spots);
    const [drilled] = hidden.drill(season, spots);
    const buriedMm = (seasons - season) * TREE.ringMm;
    holes.push({ season, ...spots[0]!, bitMm: TREE.bitMm, depthMm: TREE.depthMm, buriedMm });
    seen.push({ hole: season, ...readShavings(drilled!.lost, model.hitShare, rng), brownFromMm: null, ran: 1 });
  }
  const woodRadiusMm = TREE.woodRadiusMm + seasons * TREE.ringMm;
  const trunk: Trunk = { woodRadiusMm, barkRadiusMm: woodRadiusMm + 8, holes };
  return { trunk, seen, hidden };
}

describe('learning from shavings (self-consistency: trunks drawn from the model itself)', () => {
  it('over many trees the 80 % interval of the lean holds the truth as often, and its error falls below the prior’s', () => {
    let held = 0;
    const errors: number[] = [];
    const prior: number[] = [];
    const trees = shortOrLong(150, 400);
    for (let k = 0; k < trees; k++) {
      const { trunk, seen, hidden } = tapped(k, 10);
      const { learned } = learnTrunk(trunk, seen, DEFAULT_COLUMNS, { draws: 240, depthMm: 38.1, seed: k });
      if (learned.leanFromDeg <= hidden.leanDeg && hidden.leanDeg <= learned.leanToDeg) held += 1;
      errors.push((learned.leanMeanDeg - hidden.leanDeg) ** 2);
      prior.push(hidden.leanDeg ** 2);
    }
    // Two standard errors of a share of 0.8.
    const either = 2 * Math.sqrt((0.8 * 0.2) / trees);
    expect(held / trees).toBeGreaterThan(0.8 - either);
    expect(held / trees).toBeLessThan(0.8 + either);
    expect(mean(errors)).toBeLessThan(mean(prior));
  });

  it('the next choices are no worse for it, and the map is nearer to the truth', () => {
    const saved: number[] = [];
    const wrong = { with: 0, without: 0 };
    const trees = shortOrLong(20, 60);
    for (let k = 0; k < trees; k++) {
      const { trunk, seen, hidden } = tapped(2 * k, 16);
      const grid = gridFor(trunk, 700, 1300, 40);
      // On the side where the old holes are: elsewhere any choice is clear.
      const cells = Array.from({ length: grid.columns * grid.rows }, (_, cell) => cell).filter(
        (cell) => Math.abs(columnBearing(grid, cell % grid.columns) - 180) < 40
      );
      const truth = new Map(
        cells.map((cell) => {
          const spot = {
            bearingDeg: columnBearing(grid, cell % grid.columns),
            heightMm: rowHeight(grid, Math.floor(cell / grid.columns))
          };
          return [cell, hidden.lostAt(16, spot)];
        })
      );
      const lost = { with: 0, without: 0 };
      for (const way of ['with', 'without'] as const) {
        const { draws } = learnTrunk(trunk, way === 'with' ? seen : [], DEFAULT_COLUMNS, {
          draws: 240,
          depthMm: 38.1,
          seed: k
        });
        const { stained } = heatMap({ trunk, draws, path: DEFAULT_PRACTICE, model: DEFAULT_COLUMNS }, grid);
        // The clearest tenth of the patch: a single cell would say more of luck than of the map.
        const best = [...cells].sort((a, b) => stained[a]! - stained[b]!).slice(0, Math.ceil(cells.length / 10));
        lost[way] = mean(best.map((cell) => truth.get(cell)!));
        wrong[way] += mean(cells.map((cell) => (truth.get(cell)! - stained[cell]!) ** 2)) / trees;
      }
      saved.push(lost.without - lost.with);
    }
    // Pairs on the same trunks: no worse, as far as their number can tell, and never by much.
    const sd = Math.sqrt(mean(saved.map((s) => (s - mean(saved)) ** 2)));
    expect(mean(saved)).toBeGreaterThan((-1.96 * sd) / Math.sqrt(trees));
    expect(mean(saved)).toBeGreaterThan(-0.008);
    expect(wrong.with).toBeLessThan(wrong.without);
  });

  it('from where brown and pale shavings lie follows which way the grain leans, and where old columns reach', () => {
    // Three holes right above older ones, and three above and to the left: the latter met stain, the former did not.
    const hole = (season: number, bearingDeg: number, heightMm: number) => ({
      season,
      bearingDeg,
      heightMm,
      bitMm: 7.9375,
      depthMm: 38.1
    });
    const pairs = [30, 90, 150, 210, 270, 330].map((at, i) => [at, at + (i < 3 ? 0 : 6)] as const);
    const trunk = trunkToday(
      460,
      1,
      2027,
      pairs.flatMap(([below, above]) => [hole(2020, below, 800), hole(2026, above, 960)])
    );
    const seen = pairs.map((_, i): SeenShavings => ({
      hole: 2 * i + 1,
      seen: i < 3 ? 'pale' : 'brown',
      brownShare: null,
      brownFromMm: null
    }));
    const options = { draws: 400, depthMm: 38.1, seed: 3 };
    const blind = learnTrunk(trunk, [], DEFAULT_COLUMNS, options);
    const wise = learnTrunk(trunk, seen, DEFAULT_COLUMNS, options);
    expect(Math.abs(blind.learned.leanMeanDeg)).toBeLessThan(0.7);
    expect(wise.learned.leanMeanDeg).toBeGreaterThan(2);
    expect(wise.learned.leanSdDeg).toBeLessThan(blind.learned.leanSdDeg);
    const rightUnder = ({ draws }: typeof wise) =>
      [26, 34].map((bearingDeg) => {
        const drawn = { trunk, draws, path: DEFAULT_PRACTICE, model: DEFAULT_COLUMNS };
        return judgeSpot(drawn, { bearingDeg, heightMm: 640 }).stained;
      });
    const [right, left] = rightUnder(wise) as [number, number];
    expect(right).toBeGreaterThan(left + 0.02);
    const [blindRight, blindLeft] = rightUnder(blind) as [number, number];
    expect(right - left).toBeGreaterThan(blindRight - blindLeft + 0.02);
  });

  it('the depth of the change tells which old hole was met', () => {
    const hole = (season: number, bearingDeg: number) => ({
      season,
      bearingDeg,
      heightMm: 900,
      bitMm: 7.9375,
      depthMm: 38.1
    });
    const holes = [hole(2010, 88), hole(2024, 92), { ...hole(2026, 90), heightMm: 1000 }];
    const trunk = trunkToday(400, 1.5, 2027, holes);
    const shallow = learnTrunk(
      trunk,
      [{ hole: 2, seen: 'partly', brownShare: 0.4, brownFromMm: 24 }],
      DEFAULT_COLUMNS,
      { draws: 300, depthMm: 38.1, seed: 1 }
    );
    // Brown only from 24 mm on: the hole of 2010, under sixteen rings of 1.5 mm, and not the one of 2024 under two.
    const share = (index: number) =>
      mean(shallow.draws.map((draw) => (draw.find((c) => c.hole === index)?.halfLengthMm ?? 0) / 200));
    expect(share(0)).toBeGreaterThan(share(1));
  });

  it('readings are chances: they add up to 1, and more stain is never read as paler', () => {
    let paler = 1;
    for (let f = 0; f <= 1; f += 0.05) {
      const chances = readingChances(f, 0.02);
      expect(chances.pale + chances.partly + chances.brown + chances.dry).toBeCloseTo(1, 9);
      expect(chances.pale).toBeLessThanOrEqual(paler);
      paler = chances.pale;
    }
  });
});

describe('scars of unknown year', () => {
  const known = { season: 2005, bearingDeg: 180, heightMm: 1000, bitMm: 7.9375, depthMm: 38.1, buriedMm: 10 };
  const unsure = { sidewaysMm: 120, upMm: 150, buriedFromMm: 2, buriedToMm: 30 };
  const on = (holes: readonly OldHole[]): Trunk => ({ woodRadiusMm: 190, barkRadiusMm: 200, holes });
  const map = (trunk: Trunk) => {
    const on = { trunk, path: DEFAULT_PRACTICE, model: DEFAULT_COLUMNS };
    return heatMap(drawTrunks(on, { draws: 800, rng: seededRng(5) }), gridFor(trunk, 600, 1500, 25));
  };

  it('widen the map honestly: less dark where they may be, dark over more of the bark', () => {
    const [sharp, wide] = [map(on([known])), map(on([{ ...known, unsure }]))];
    expect(Math.min(...wide.pClear)).toBeGreaterThan(Math.min(...sharp.pClear));
    const doubtful = (m: typeof sharp) => m.pClear.filter((p) => p < 0.98).length;
    expect(doubtful(wide)).toBeGreaterThan(2 * doubtful(sharp));
  });
});

describe('sections', () => {
  const { trunk } = tapped(1, 20);
  const path = { bitMm: 7.9375, depthMm: 38.1 };
  const drawn = drawTrunks({ trunk, path, model: DEFAULT_COLUMNS }, { draws: 300, rng: seededRng(9) });

  it('along the path as much is stained as the heat map says', () => {
    for (const depthMm of [38.1, 90])
      for (let bearingDeg = 150; bearingDeg < 300; bearingDeg += 11) {
        const spot = { bearingDeg, heightMm: 950 };
        const deep = { ...drawn, path: { ...path, depthMm } };
        const along = alongPath(deep, spot);
        const steps = Array.from(along, (share, i) => share * (Math.min(i + 1, depthMm) - i));
        const stained = steps.reduce((a, b) => a + b, 0) / depthMm;
        const told = judgeSpot(deep, spot).stained;
        // A column's edge within a millimetre of depth is rounded.
        expect(Math.abs(stained - told)).toBeLessThan(0.001);
      }
  });

  it('the saw shows each column as deep as its rings, and not above its end', () => {
    const cut = crossSection(trunk, drawn.draws, 935);
    expect(cut.length).toBeGreaterThan(5);
    for (const { hole, chance, fromDepthMm, halfWidthMm } of cut) {
      expect(chance).toBeGreaterThan(0);
      expect(chance).toBeLessThanOrEqual(1);
      expect(fromDepthMm).toBeCloseTo(trunk.holes[hole]!.buriedMm, 6);
      expect(halfWidthMm).toBeLessThan(25);
    }
    expect(crossSection(trunk, drawn.draws, 4900)).toEqual([]);
  });

  it('cut lengthwise, the stain stands over and under the hole and behind the wood that grew since', () => {
    const one: Trunk = { ...trunk, holes: [{ ...trunk.holes[0]!, bearingDeg: 90, heightMm: 1000, buriedMm: 12 }] };
    const deep = { trunk: one, path: { bitMm: 7.9375, depthMm: 80 }, model: DEFAULT_COLUMNS };
    const { draws } = drawTrunks(deep, { draws: 300, rng: seededRng(2) });
    const cut = lengthwise(one, draws, 90, {
      lowestMm: 500,
      highestMm: 1500,
      depthMm: 80,
      stepMm: 4
    });
    const at = (heightMm: number, depthMm: number) =>
      cut.stained[Math.floor((heightMm - 500) / 4) * cut.columns + Math.floor(depthMm / 4)]!;
    expect(at(1000, 4)).toBe(0);
    expect(at(1000, 30)).toBeGreaterThan(0.4);
    expect(at(1000, 70)).toBe(0);
    expect(at(1150, 30)).toBeLessThan(at(1050, 30));
    expect(at(520, 30)).toBeLessThan(0.05);
  });
});
