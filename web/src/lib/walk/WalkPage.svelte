<script lang="ts">
  import { page } from '$app/state';

  import { ROW_ROUNDS, type RowRoundSlug } from './rowRounds.ts';
  import RowWalk from './RowWalk.svelte';
  import TapWalk from './TapWalk.svelte';

  /** The rounds that are walked; the tapping round where the address names none. */
  const slug = $derived(page.params.round);
  const isRowRound = (name: string | undefined): name is RowRoundSlug => name !== undefined && name in ROW_ROUNDS;
</script>

{#key slug}
  {#if isRowRound(slug)}<RowWalk {slug} />{:else}<TapWalk />{/if}
{/key}
