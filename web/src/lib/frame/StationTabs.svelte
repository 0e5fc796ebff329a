<script lang="ts">
  import type { Station } from '@baumkin/core/records';

  import { page } from '$app/state';
  import { useBush } from '$lib/client/bush.svelte.ts';

  import { PAGES } from './pages.ts';
  import { TRAIL } from './stations.ts';

  /** The pages of a station, as a row of links under the top line. */
  const { station, treeId = null }: { station: Station; treeId?: string | null } = $props();
  const bush = useBush();
  const base = $derived(`/bush/${bush.id}/${station}`);
  const tabs = $derived.by(() => {
    const { one, home, pages } = PAGES[station];
    const tree = { href: treeId ? `${base}/${treeId}` : base, name: one };
    const others = pages.map(({ slug, name }) => ({ href: `${base}/${slug}`, name }));
    return home ? [...others, tree] : [tree, ...others];
  });
  const stationName = $derived(TRAIL.find(({ id }) => id === station)!.name);
  let row: HTMLElement;
  // On a phone the row is longer than the screen: the page that is open stays in sight.
  $effect(() => {
    void page.url.pathname;
    row.querySelector('[aria-current]')?.scrollIntoView({ inline: 'center', block: 'nearest' });
  });
</script>

<nav
  bind:this={row}
  aria-label="Pages of {stationName}"
  class="mb-3 flex gap-x-1 overflow-x-auto overflow-y-hidden border-b border-base-300 print:hidden"
>
  {#each tabs as { href, name } (name)}
    {@const here = page.url.pathname === href}
    <a
      {href}
      aria-current={here ? 'page' : undefined}
      class="px-2.5 py-1.5 whitespace-nowrap max-md:px-2 max-md:py-2.5 {here
        ? 'border-b-[3px] border-base-content font-bold'
        : 'hover:underline'}">{name}</a
    >
  {/each}
</nav>
