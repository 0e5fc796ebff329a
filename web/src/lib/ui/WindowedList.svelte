<script lang="ts" generics="T">
  import { createVirtualizer } from '@tanstack/svelte-virtual';
  import { untrack, type Snippet } from 'svelte';

  /** A long list of which only what can be seen is drawn; the page itself scrolls, not a box inside it. */
  const { items, rowPx, line }: { items: readonly T[]; rowPx: number; line: Snippet<[item: T, index: number]> } =
    $props();
  let list = $state<HTMLUListElement | null>(null);

  const virtual = createVirtualizer<HTMLElement, HTMLLIElement>({
    count: 0,
    getScrollElement: () => null,
    estimateSize: () => untrack(() => rowPx),
    overscan: 6
  });
  $effect(() => {
    const [count, page, px] = [items.length, list?.closest('main') ?? null, rowPx];
    const scrollMargin =
      list && page ? list.getBoundingClientRect().top - page.getBoundingClientRect().top + page.scrollTop : 0;
    // Setting its options changes the list's own store, which must not call for setting them again.
    untrack(() => {
      $virtual.setOptions({ count, getScrollElement: () => page, scrollMargin, estimateSize: () => px });
      $virtual.measure();
    });
  });
</script>

<ul class="relative border-t border-base-300" bind:this={list} style:height="{$virtual.getTotalSize()}px">
  {#each $virtual.getVirtualItems() as item (item.key)}
    {@const shown = items[item.index]}
    {#if shown !== undefined}
      <li
        class="absolute inset-x-0 top-0 border-b border-base-300/70"
        style:height="{rowPx}px"
        style:transform="translateY({item.start - $virtual.options.scrollMargin}px)"
      >
        {@render line(shown, item.index)}
      </li>
    {/if}
  {/each}
</ul>
