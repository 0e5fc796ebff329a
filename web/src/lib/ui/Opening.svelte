<script lang="ts">
  import { useBush } from '$lib/client/bush.svelte.ts';

  /** A page whose bush is not known yet: what will stand there is not told as empty. */
  const bush = useBush();
</script>

{#if bush.outbox.offline}
  <p class="max-w-prose text-lg" role="status">
    There is no network, and this device has not seen this bush before. Open it once where there is a network.
  </p>
{:else if bush.problem === null}
  <p class="aside" role="status">Opening the bush …</p>
  <div class="mt-4 flex max-w-4xl flex-col gap-4 opacity-60" aria-hidden="true">
    <div class="h-9 w-64 skeleton"></div>
    <div class="h-5 w-full skeleton"></div>
    <div class="h-5 w-4/5 skeleton"></div>
    <div class="h-56 w-full skeleton"></div>
  </div>
{/if}
