<script lang="ts">
  import { preferences } from '$lib/client/preferences.svelte.ts';

  /** The word on a hole that is drilled from the snow and hangs too high once it is gone. */
  const { heightMm, plain = false }: { heightMm: number; plain?: boolean } = $props();
</script>

<p class={plain ? 'text-xs font-semibold' : 'caution'} data-testid="high-hole">
  When the snow is gone this hole is {preferences.length(heightMm, 'hand')} up: a full bucket cannot be lifted down safely.
  Choose a lower place, and stand on no ladder for it.
</p>
