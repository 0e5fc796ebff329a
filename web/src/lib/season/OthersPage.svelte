<script lang="ts">
  import { otherSeason, otherTrees, otherYear, placesNow, storedSap, type PlaceNow } from '@baumkin/core/bush';
  import { OTHER_SAPS, type OtherSap } from '@baumkin/core/identify';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import EmptyState from '$lib/ui/EmptyState.svelte';

  import BatchForm from './BatchForm.svelte';
  import { SeasonDesk } from './desk.svelte.ts';
  import LogCollection from './LogCollection.svelte';
  import OtherKind from './OtherKind.svelte';
  import PlaceForm from './PlaceForm.svelte';

  /**
   * Is it worth going on when the maples are over, and when? For birches and walnuts the page says which bear a hole, when their sap
   * rises this year and what it boils down to, before anybody stands at a pan from which a hundred litres make one.
   */
  const bush = useBush();
  const desk = new SeasonDesk(bush);
  const kinds = $derived(
    OTHER_SAPS.map((kind) => {
      const { stands, settings, weather } = desk;
      const { season, today, bushRecords } = bush;
      const now = new Date();
      return {
        kind,
        trees: otherTrees(kind, bush.rows, { stands, settings, season, today }),
        rises: otherSeason(kind, weather, { season, today }),
        year: otherYear(kind, bushRecords, season),
        places: placesNow(bushRecords, bush.rows, season, kind),
        store: storedSap(bushRecords, weather, { season, today, hour: now.getHours(), sap: kind })
      };
    })
  );
  const some = $derived(kinds.filter(({ trees }) => trees.length > 0));
  let logged = $state.raw<PlaceNow | null>(null);
  let placeOf = $state<OtherSap>('birch');
  let placeOpen = $state(false);
  let batchOf = $state<OtherSap>('birch');
  let batchOpen = $state(false);
</script>

<h1 class="sr-only">Birch and walnut</h1>
{#if some.length === 0}
  <EmptyState title="No birch or walnut here" next={{ label: 'All trees', href: `/bush/${bush.id}/identify/all` }}
    >Some boil the sap of birches when the maples are over, and that of walnuts beside them. Trees that are identified
    as such, and have a tag, stand here with what they bear.</EmptyState
  >
{:else}
  <div class="flex flex-col gap-9">
    {#each some as each (each.kind)}
      <OtherKind
        {...each}
        onlog={(place) => (logged = place)}
        onplace={() => ([placeOf, placeOpen] = [each.kind, true])}
        onbatch={() => ([batchOf, batchOpen] = [each.kind, true])}
      />
    {/each}
    <p class="caution max-w-3xl">
      Pans, pails and bottles of their own, and a label that says what it is: walnut is a tree nut, and some people do
      not bear birch. Their sap keeps a day or two in warm weather; what smells sour or is ropy is poured away. Sap that
      is drunk as sap is boiled before it is given away.
    </p>
  </div>
  <PlaceForm bind:open={placeOpen} sap={placeOf} />
  <BatchForm
    bind:open={batchOpen}
    sap={batchOf}
    store={kinds.find(({ kind }) => kind === batchOf)?.store ?? null}
    waterBoilsC={null}
  />
  <LogCollection bind:now={logged} expected={null} />
{/if}
