import { describe, expect, it } from 'vitest';

import { crownSides, drawCrown, judgeCrown, SIDES, type Side, type StandTree } from '../src/stand/index.ts';
import { seededRng } from '../src/math/index.ts';

const tree = (tag: string, eastM: number, northM: number, heightM: number, reachM = 3): StandTree => ({
  id: tag,
  tag,
  species: null,
  dbhMm: 300,
  eastM,
  northM,
  positionQuality: 'surveyed',
  heightM,
  crownRadiiM: [reachM, reachM, reachM, reachM]
});

describe('a crown to practise on', () => {
  // Crown touching, with its rule for shorter neighbours (Perkey, Wilkins & Smith 1993, NA-TP-19-93): north touches, east leaves two metres,
  // south is near and half as tall, west has nobody.
  const scene = {
    subject: tree('0', 0, 0, 20),
    others: [tree('n', 0, 6.5, 19), tree('e', 8.5, 0, 20), tree('s', 0, -5, 10)],
    diebackPct: 15
  };

  it('is judged side by side, with the reason of each', () => {
    const { sides, freeSides } = judgeCrown(scene, { blocked: ['north', 'south'], diebackPct: 15 });
    expect(freeSides).toBe(3);
    expect(sides.map(({ side, blocked, right }) => [side, blocked, right])).toEqual([
      ['north', true, true],
      ['east', false, true],
      ['south', false, false],
      ['west', false, true]
    ]);
    expect(sides.map(({ because }) => because)).toEqual([
      { why: 'touches', gapM: 0.5, tag: 'n' },
      { why: 'apart', gapM: 2.5, tag: 'e' },
      { why: 'shorter', tag: 's' },
      { why: 'nobody' }
    ]);
  });

  it('allows two classes of five per cent for dieback', () => {
    const near = (diebackPct: number) => judgeCrown(scene, { blocked: [], diebackPct });
    expect([near(5), near(25)].every(({ diebackNear }) => diebackNear)).toBe(true);
    expect([near(0), near(30)].some(({ diebackNear }) => diebackNear)).toBe(false);
    expect(near(25).diebackOff).toBe(10);
  });

  it('is plain: whoever looks right is right, and free, blocked and shorter all come up', () => {
    const rng = seededRng(11);
    const met = { touches: 0, shorter: 0, apart: 0, nobody: 0 };
    for (let i = 0; i < 300; i++) {
      const drawn = drawCrown(rng);
      const { blocked } = crownSides(drawn.subject, drawn.others, new Set());
      const truth: Side[] = SIDES.filter((side) => blocked[side].length > 0);
      const judged = judgeCrown(drawn, { blocked: truth, diebackPct: drawn.diebackPct });
      expect(judged.sides.every(({ right }) => right)).toBe(true);
      expect(drawn.diebackPct % 5).toBe(0);
      for (const { because } of judged.sides) met[because.why] += 1;
    }
    for (const count of Object.values(met)) expect(count).toBeGreaterThan(100);
  });
});
