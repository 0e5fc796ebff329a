import type { BushSettings, Taphole, Tree, TreeState } from '../records/index.ts';
import type { LoggedTree } from '../trunk/index.ts';
import { ringCvOf, seenOf, trunkOf } from './placement.ts';

/** A tree as the bush logged it, and the holes that its trunk begins with. */
export interface LoggedHoles {
  readonly tree: LoggedTree;
  readonly holes: readonly Taphole[];
}

/** What a tree's shavings and sawn faces tell of its columns. @returns null where there are none, or where it was never measured */
export function loggedTree(
  { id, standId }: Pick<Tree, 'id' | 'standId'>,
  state: TreeState,
  settings: BushSettings,
  season: number
): LoggedHoles | null {
  const found = trunkOf(state, settings, season);
  if (!found) return null;
  const { holes, trunk } = found;
  const seen = seenOf(holes, state);
  const sawn = holes.flatMap(({ id: hole, bitMm }) => {
    const face = state.sawnColumns.get(hole);
    return face ? [{ bitMm, widthMm: face.widthMm, lengthMm: face.lengthMm, leanDeg: face.leanDeg }] : [];
  });
  if (seen.length + sawn.length === 0) return null;
  const species = state.determination?.species ?? null;
  return { holes, tree: { treeId: id, standId, species, trunk, ringCv: ringCvOf(state), seen, sawn } };
}
