<script lang="ts">
  /** Would the book outlive this machine? What is known of the server's backups, for those whose bush lies on it. */
  const { lastGood, failedAt, now }: { lastGood: Date | null; failedAt: Date | null; now: Date } = $props();

  /** Nights that may go by without one before it is told as a warning: a machine is off for a day. Working assumption. */
  const NIGHTS = 3;
  const DAY_MS = 86_400_000;
  const isOld = $derived(lastGood === null || now.getTime() - lastGood.getTime() > NIGHTS * DAY_MS);
  const format = new Intl.DateTimeFormat('en-GB', {
    weekday: 'long',
    day: 'numeric',
    month: 'long',
    hour: '2-digit',
    minute: '2-digit'
  });
</script>

<p class={isOld ? 'border-l-4 border-warning pl-3' : 'aside'}>
  {#if lastGood}
    {isOld ? 'The last good backup of this server is of' : 'Backed up, and read back on trial:'}
    {format.format(lastGood)}.
  {:else}
    There is no backup of this server yet: your trees are on one disk.
  {/if}
  {#if failedAt}The try of {format.format(failedAt)} failed.{/if}
  {#if isOld || failedAt}Tell whoever runs it; <span class="font-mono text-sm">npm run backup</span> says why.{/if}
</p>
