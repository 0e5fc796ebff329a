<script lang="ts">
  import { useBush } from '$lib/client/bush.svelte.ts';

  /** A stand of the bush, or all of them: the empty id. Nothing to choose where it has none. */
  let { value = $bindable(), size = 'w-40' }: { value: string; size?: string } = $props();
  const bush = useBush();
  const stands = $derived(bush.overview?.stands ?? []);
</script>

{#if stands.length > 0}
  <select class="select max-md:h-12 max-md:text-base md:select-sm {size}" aria-label="Stand" bind:value>
    <option value="">All stands</option>
    {#each stands as stand (stand.id)}<option value={stand.id}>{stand.name}</option>{/each}
  </select>
{/if}
