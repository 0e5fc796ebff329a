<script lang="ts">
  import { useBush } from '$lib/client/bush.svelte.ts';

  /** A stand of the bush, or all of them: the empty id. */
  let { value = $bindable(), size = 'w-40' }: { value: string; size?: string } = $props();
  const bush = useBush();
</script>

<select class="select max-md:h-12 max-md:text-base md:select-sm {size}" aria-label="Stand" bind:value>
  <option value="">All stands</option>
  {#each bush.overview?.stands ?? [] as stand (stand.id)}<option value={stand.id}>{stand.name}</option>{/each}
</select>
