<script lang="ts">
  import { page } from '$app/state';

  /** The pages of a station, as a row of links under the top line. */
  const { label, pages }: { label: string; pages: readonly (readonly [href: string, name: string])[] } = $props();
</script>

<nav aria-label={label} class="mb-3 flex gap-x-1 border-b border-base-300 print:hidden">
  {#each pages as [href, name] (name)}
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
