<script lang="ts">
  import { told } from '$lib/words/told.ts';

  import Term from './Term.svelte';

  /** A sentence whose terms of the trade can be tapped. */
  const { of }: { of: string } = $props();
</script>

{#each told(of) as { text, term }, i (i)}{#if term}<Term of={term}>{text}</Term>{:else}{text}{/if}{/each}
