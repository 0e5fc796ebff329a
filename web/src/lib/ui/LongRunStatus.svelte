<script lang="ts">
  /** How far a long computation is, and the way out of it; or that it broke off. */
  const { run, what }: { run: { readonly done: number | null; readonly failed: boolean; stop(): void }; what: string } =
    $props();
</script>

{#if run.done !== null}
  <p role="status" class="flex flex-wrap items-center gap-3">
    {what}
    <progress class="progress w-40" value={run.done} max="1" aria-label={what}></progress>
    <button class="link" onclick={() => run.stop()}>Stop</button>
  </p>
{:else if run.failed}
  <p role="alert" class="font-semibold text-error">That broke off by a fault. What was there is kept; try it again.</p>
{/if}
