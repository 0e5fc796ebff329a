<script lang="ts">
  import { useBush } from '$lib/client/bush.svelte.ts';

  /** How many trees a page has gone through, before which it tells nothing of them. */
  const { done, all, what = 'Going through the trees' }: { done: number; all: number; what?: string } = $props();
  const bush = useBush();
  /** Before all of the bush is here, none of it is gone through. */
  const waits = $derived(done === 0 && bush.progress);
  const [says, value, max] = $derived(
    waits
      ? ['The bush is still coming onto this device', waits.trees, waits.of]
      : [what, all > 0 ? done : undefined, all > 0 ? all : undefined]
  );
</script>

<p role="status" class="flex flex-wrap items-center gap-3">
  {says}{max === undefined ? '' : `, ${value} of ${max}`} …
  <progress class="progress w-40" {value} {max} aria-label={says}></progress>
</p>
