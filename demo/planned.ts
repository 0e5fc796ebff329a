import { placementOf, rotationToKeep } from '@baumkin/core/bush';
import {
  bushSettingsSchema,
  deriveTree,
  type BushSettings,
  type RecordInput,
  type WorkRecord
} from '@baumkin/core/records';
import { PlacedTrunk } from '@baumkin/core/rotation';

import { envelopeOf } from './draw.ts';

/** What of Corran Hill's own numbers is not as in any new bush. */
export const SETTINGS = {
  paints: ['blue', 'white', 'violet'],
  openToVisitors: true,
  visitorWords:
    'Welcome to Corran Hill. The bush belongs to all who live below it, and has been tapped for longer than anybody remembers.\n\nThe path with the white posts is for you; the sugarhouse is open when there is steam over the roof.'
} satisfies Partial<BushSettings>;

const DAY = '2026-11-16';
const SEASON = 2027;

/** One of the counted trees was looked at by the drill's side already: its holes are planned. */
export function planned(records: readonly WorkRecord[], uuid: () => string): RecordInput[] {
  const treeId = records.filter((record) => record.kind === 'decision' && record.taps > 0).at(-1)!.treeId;
  const tree = deriveTree(
    records.filter((record) => record.treeId === treeId),
    { season: SEASON, today: DAY }
  );
  const settings = bushSettingsSchema.parse(SETTINGS);
  const { basis, task } = placementOf(tree, { treeId, settings, season: SEASON, wanted: tree.decision!.taps })!;
  const rotation = rotationToKeep(basis, task.seed, new PlacedTrunk(task).plan())!;
  return [{ ...envelopeOf(treeId, uuid)(DAY), ...rotation }];
}
