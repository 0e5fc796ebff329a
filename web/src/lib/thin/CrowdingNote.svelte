<script lang="ts">
  import type { Stand } from '@baumkin/core/records';
  import type { StandTree } from '@baumkin/core/stand';
  import { basalAreaInLarger, COMPETITION_RADIUS_M, competitionOf, growingSpace } from '@baumkin/core/thinning';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';

  /** How crowded a tree stands, in words and figures. */
  interface Props {
    subject: StandTree;
    /** every tree with a place */
    mapped: readonly StandTree[];
    stand: Stand | null;
  }
  const { subject, mapped, stand }: Props = $props();
  const bush = useBush();
  const metres = (m: number) => preferences.length(m * 1000, 'ground');
  /** How crowded it stands: competition, ground of its own, and what is thicker. */
  const crowding = $derived.by(() => {
    const here = mapped.filter((tree) => bush.byId.get(tree.id)?.standId === (stand?.id ?? null));
    const at = here.findIndex(({ id }) => id === subject.id);
    const outline = stand?.outline ?? here.map(({ eastM, northM }): [number, number] => [eastM, northM]);
    const [easts, norths] = [outline.map(([e]) => e), outline.map(([, n]) => n)];
    const box = [Math.min(...easts), Math.min(...norths), Math.max(...easts), Math.max(...norths)] as const;
    return {
      index: competitionOf(here, stand?.outline ? [stand.outline] : [])[at]!,
      spaceM2: growingSpace(here, box)[at]!,
      larger: stand?.areaHa
        ? basalAreaInLarger(
            here.map(({ dbhMm }) => dbhMm),
            stand.areaHa
          )[at]!
        : null
    };
  });
</script>

<p data-testid="crowding">
  {preferences.patch(crowding.spaceM2)} of ground are nearer to it than to any other tree; competition within {metres(
    COMPETITION_RADIUS_M
  )} is
  <span
    title="The sum over its neighbours of their diameter over its own, divided by their distance in metres (Hegyi 1974)."
    >{crowding.index < 1 ? 'light' : crowding.index < 2.5 ? 'middling' : 'strong'}</span
  >
  ({crowding.index.toFixed(1)}){crowding.larger === null
    ? ''
    : `; thicker trees of the stand hold ${preferences.basalAreaDensity(crowding.larger)}`}.
</p>
