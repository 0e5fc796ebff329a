<script lang="ts">
  import type { Station } from '@baumkin/core/records';

  import { page } from '$app/state';
  import { PAGES } from '$lib/frame/pages.ts';
  import StationTabs from '$lib/frame/StationTabs.svelte';

  const station = $derived(page.params.station as Station);
  const loaded = $derived(PAGES[station]?.pages.find(({ slug }) => slug === page.params.page)?.load());
</script>

{#if loaded}
  <StationTabs {station} />
  {#await loaded then { default: Page }}
    <Page />
  {:catch}
    <p role="alert">This page could not be loaded. Without a network, open it once while there is one.</p>
  {/await}
{:else}
  <h1>No such page</h1>
  <p class="mt-2">There is nothing at this address.</p>
{/if}
