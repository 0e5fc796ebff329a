import { judgeChoice, openingCovers, type PlanLimits, type PlanStand } from '../src/thinning/index.ts';

/**
 * A tree at a time, always the one that adds most worth, as long as all limits hold: what a practised eye does. It is there
 * to hold the plan against.
 */
export function planByEye(stand: PlanStand, limits: PlanLimits): Set<string> {
  const taken = new Set(stand.trees.filter(({ must }) => must).map(({ tree }) => tree.id));
  const open = new Set(
    stand.trees.filter((each) => !each.must && !each.crop && each.hold === null).map(({ tree }) => tree.id)
  );
  // Sides that several trees block are freed only by all of them: they are tried together.
  const groups = [...stand.sides.values()].flatMap((states) =>
    states.filter((s) => s.known && s.others === 0 && s.blockers.length > 0).map(({ blockers }) => blockers)
  );
  const covers = openingCovers(stand, limits);
  let worth = judgeChoice(stand, limits, taken, covers).worth;
  for (;;) {
    let best: { group: readonly string[]; worth: number; price: number } | null = null;
    for (const group of [...groups, ...[...open].map((id) => [id])]) {
      const added = group.filter((id) => !taken.has(id));
      if (added.length === 0 || added.some((id) => !open.has(id))) continue;
      const then = judgeChoice(stand, limits, new Set([...taken, ...added]), covers);
      if (then.broken.length > 0 || then.worth <= worth + 1e-9) continue;
      const price = (then.worth - worth) / added.length;
      if (!best || price > best.price) best = { group: added, worth: then.worth, price };
    }
    if (!best) return taken;
    for (const id of best.group) taken.add(id);
    worth = best.worth;
  }
}
