<script lang="ts">
  interface Run {
    readonly done: number | null;
    readonly failed: boolean;
    stop(): void;
    /** of one that can be held up and goes on */
    readonly paused?: boolean;
    pause?(): void;
    resume?(): void;
  }
  /** How far a long computation is, and the way out of it; or that it broke off. */
  const { run, what }: { run: Run; what: string } = $props();
</script>

{#if run.done !== null}
  <p role="status" class="flex flex-wrap items-center gap-3">
    {run.paused ? `${what}: held up` : what}
    <progress class="progress w-40" value={run.done} max="1" aria-label={what}></progress>
    {#if run.pause && run.resume}
      {#if run.paused}<button class="link" onclick={() => run.resume!()}>Go on</button>
      {:else}<button class="link" onclick={() => run.pause!()}>Hold up</button>{/if}
    {/if}
    <button class="link" onclick={() => run.stop()}>Stop</button>
  </p>
{:else if run.failed}
  <p role="alert" class="font-semibold text-error">That broke off by a fault. What was there is kept; try it again.</p>
{/if}
