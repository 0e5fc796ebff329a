<script lang="ts">
  import { speciesById } from '@baumkin/core/identify';
  import type { Station, TreeRow } from '@baumkin/core/records';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';

  const { row, station }: { row: TreeRow; station: Station | 'life' } = $props();
  const bush = useBush();
  const species = $derived.by(() => {
    if (row.verdict === 'mapleOpen') return 'maple, species open';
    if (row.verdict === 'lookAgain' || !row.verdict) return 'species unsettled';
    return row.species ? speciesById(row.species).name : 'not a maple';
  });
</script>

<div class="sheet-title mb-3">
  <h1 class="max-md:sr-only">Tree {row.tag}</h1>
  <p>
    {species}{row.dbhMm ? `, ${preferences.length(row.dbhMm, 'trunk')} thick` : ', not measured'}{bush.standOf(row)
      ? `, ${bush.standOf(row)!.name}`
      : ''}
  </p>
  {#if station !== 'life'}
    <a class="aside ml-auto link" href="/bush/{bush.id}/life/{row.id}">Its life</a>
  {/if}
</div>
