<script lang="ts">
  import { untrack, type Snippet } from 'svelte';

  import { provideBush, type BushState } from './bush.svelte.ts';

  /** Gives everything inside its bush. Another bush is another context: what is inside begins anew. */
  const { bush, children }: { bush: BushState; children: Snippet } = $props();
  provideBush(untrack(() => bush));
</script>

{@render children()}
