<script lang="ts">
  import { isSugarbush } from '@baumkin/core/records';

  import type { ThinDesk } from './desk.svelte.ts';

  /** Which stand lies on the table; nothing to choose where there is none. */
  const { desk, all = true }: { desk: ThinDesk; all?: boolean } = $props();
  const stands = $derived(all ? desk.stands : desk.stands.filter(isSugarbush));
</script>

{#if stands.length > 0}<label class="flex items-center gap-2"
    >Stand
    <select
      class="select w-auto font-semibold"
      value={desk.stand?.id}
      onchange={(event) => void desk.begin(event.currentTarget.value)}
    >
      {#each stands as stand (stand.id)}<option value={stand.id}>{stand.name}</option>{/each}
    </select></label
  >{/if}
