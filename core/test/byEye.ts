import { coverOf, judgeChoice, openingCovers, type PlanLimits, type PlanStand } from '../src/thinning/index.ts';

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
  const cover = coverOf(stand);
  let worth = judgeChoice(stand, limits, taken, { covers, cover }).worth;
  // A tree that adds nothing on its own adds something only with those that block the same side.
  const alone = [...open].filter(
    (id) => judgeChoice(stand, limits, new Set([...taken, id]), { covers, cover }).worth > worth
  );
  const tries = [
    ...groups,
    ...alone.filter((id) => !groups.some((group) => group.length === 1 && group[0] === id)).map((id) => [id])
  ].map((group) => ({ group, price: Infinity }));
  // The most promising one is looked at anew; it is taken once it still is the most promising.
  for (;;) {
    const best = tries.reduce((a, b) => (b.price > a.price ? b : a), { group: [] as readonly string[], price: 0 });
    if (best.price <= 0) return taken;
    const added = best.group.filter((id) => !taken.has(id));
    const next = tries.reduce((most, each) => (each === best ? most : Math.max(most, each.price)), 0);
    best.price = 0;
    if (added.length === 0 || added.some((id) => !open.has(id))) continue;
    const then = judgeChoice(stand, limits, new Set([...taken, ...added]), { covers, cover });
    const price = then.broken.length > 0 ? 0 : (then.worth - worth) / added.length;
    if (price <= 1e-9) continue;
    if (price < next) {
      best.price = price;
      continue;
    }
    for (const id of added) taken.add(id);
    worth = then.worth;
    // Whoever shares a crown with it may promise more now.
    const crops = [...stand.sides.values()].filter((states) =>
      states.some(({ blockers }) => blockers.some((id) => added.includes(id)))
    );
    const near = new Set(crops.flatMap((states) => states.flatMap(({ blockers }) => blockers)));
    for (const each of tries) if (each.group.some((id) => near.has(id))) each.price = Infinity;
  }
}
