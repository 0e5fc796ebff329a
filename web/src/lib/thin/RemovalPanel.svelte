<script lang="ts">
  import { cruisedM2PerHa } from '@baumkin/core/bush';
  import { removal, REMOVAL_LIMIT } from '@baumkin/core/stand';
  import { untaggedMarks } from '@baumkin/core/thinning';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { counted } from '$lib/labels/counted.ts';
  import Term from '$lib/ui/Term.svelte';

  /** What the marks take out of a stand, held against what one entry may. */
  const { standId, taken }: { standId: string | null; taken: ReadonlySet<string> } = $props();
  const bush = useBush();
  const stand = $derived(bush.overview!.stands.find(({ id }) => id === standId) ?? null);
  const inStand = $derived(
    bush.rows.flatMap((r) => (r.standId === standId && r.dbhMm !== null ? [{ id: r.id, dbhMm: r.dbhMm }] : []))
  );
  const out = $derived(removal(inStand, taken));
  /** Marked trees whose thickness nobody knows: what they take is not in the sum. */
  const unmeasured = $derived(
    bush.rows.filter((r) => r.standId === standId && r.dbhMm === null && taken.has(r.id)).length
  );
  /** What crown cards of the stand mark beside: trees that are not in the registry. */
  const beside = $derived.by(() => {
    const cards = bush.rows.flatMap((r) => (r.standId === standId && r.crownCard ? [untaggedMarks(r.crownCard)] : []));
    return { many: cards.reduce((n, c) => n + c.many, 0), m2: cards.reduce((n, c) => n + c.basalAreaM2, 0) };
  });
  /** The stand's whole basal area, m2, as plots found it; null without plots or ground. */
  const cruised = $derived.by(() => {
    const perHa = standId === null ? null : cruisedM2PerHa(bush.bushRecords, standId);
    return perHa === null || !stand?.areaHa ? null : stand.areaHa * perHa;
  });
</script>

<div data-testid="removal">
  <h2>What the marks take out of {stand?.name ?? 'the bush'}</h2>
  {#if inStand.length === 0}
    <p>No trunk is measured here: what a mark takes is not known.</p>
  {:else}
    <div class="relative my-1.5 h-4 bg-base-300" aria-hidden="true">
      <div
        class="absolute inset-y-0 left-0 {out.overLimit ? 'bg-error' : 'bg-neutral'}"
        style:width="{Math.min(100, out.share * 200)}%"
      ></div>
      <div class="absolute -inset-y-1 w-0.5 bg-base-content" style:left="{REMOVAL_LIMIT * 200}%"></div>
    </div>
    <p>
      <b>{(out.share * 100).toFixed(1)} %</b> of the <Term of="basalArea" />: {counted(out.trees, 'tree')}, {preferences.basalArea(
        out.basalAreaM2
      )}.
      {out.overLimit
        ? 'That is more than one entry should take: the rest would stand in shock. Spread it over ten years.'
        : `One entry takes at most about ${REMOVAL_LIMIT * 100} % of the basal area.`}
    </p>
    {#if unmeasured > 0}<p>
        {counted(unmeasured, 'marked tree is', 'marked trees are')} not measured, and not in this sum.
      </p>{/if}
  {/if}
  {#if beside.many > 0}<p>
      Crown cards mark {beside.many} more without a tag, {preferences.basalArea(beside.m2)}.
    </p>{/if}
  {#if cruised !== null}<p>
      Plots found {preferences.basalArea(cruised)} in the whole stand: of that, marks and cards take {(
        (100 * (out.basalAreaM2 + beside.m2)) /
        cruised
      ).toFixed(1)} %.
    </p>{/if}
</div>
