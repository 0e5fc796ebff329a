<script lang="ts">
  import { page } from '$app/state';

  import { isRoundSlug } from './roundSlugs.ts';
  import RowWalk from './RowWalk.svelte';
  import TapWalk from './TapWalk.svelte';

  /** The rounds that are walked; the tapping round where the address names none. */
  const slug = $derived(page.params.round);
</script>

{#key slug}
  {#if isRoundSlug(slug)}<RowWalk {slug} />{:else}<TapWalk />{/if}
{/key}
