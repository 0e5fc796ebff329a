<script lang="ts">
  import { useBush } from '$lib/client/bush.svelte.ts';

  /** Said of a tree whose records are not on this device: what is not known is not told as nothing. */
  const bush = useBush();
</script>

{#if bush.outbox.offline}
  <p class="mt-4 max-w-prose text-lg" role="status">
    What is recorded of this tree is not on this device yet. It comes along while there is a network.
  </p>
{:else}
  <p class="aside mt-4" role="status">Fetching what is known of this tree …</p>
{/if}
