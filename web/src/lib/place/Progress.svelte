<script lang="ts">
  /** How far a long computation is, and the way out of it. */
  const { done, what, onstop }: { done: number; what: string; onstop: () => void } = $props();
</script>

<p role="status" class="flex flex-wrap items-center gap-3">
  {what}
  <progress class="progress w-40" value={done} max="1" aria-label={what}></progress>
  <button class="link" onclick={onstop}>Stop</button>
</p>
