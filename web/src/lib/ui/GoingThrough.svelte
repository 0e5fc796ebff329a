<script lang="ts">
  /** How many trees a page has gone through, before which it tells nothing of them. */
  const { done, all, what = 'Going through the trees' }: { done: number; all: number; what?: string } = $props();
</script>

<p role="status" class="flex flex-wrap items-center gap-3">
  {what}{all > 0 ? `, ${done} of ${all}` : ''} …
  <progress class="progress w-40" value={all > 0 ? done : undefined} max={all > 0 ? all : undefined} aria-label={what}
  ></progress>
</p>
