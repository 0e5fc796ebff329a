<script lang="ts">
  import { useBush } from '$lib/client/bush.svelte.ts';
  import type { Written } from '$lib/client/lastDone.svelte.ts';
  import ModalDialog from '$lib/ui/ModalDialog.svelte';

  /** What was written down last on this device: each can be taken back, long after the message that said so is gone. */
  let { open = $bindable() }: { open: boolean } = $props();
  const bush = useBush();
  const time = new Intl.DateTimeFormat('en-GB', { weekday: 'short', hour: '2-digit', minute: '2-digit' });
  const mayGo = ({ records }: Written) => records.every((record) => bush.mayTakeBack(record));
</script>

<ModalDialog bind:open title="Last things done here" width="32rem">
  <ul class="flex flex-col" data-testid="last-done">
    {#each bush.lastDone.list as written (written.records[0]?.id)}
      <li class="flex min-h-14 items-center justify-between gap-3 border-b border-base-300">
        <span>{written.said} <span class="aside">{time.format(new Date(written.at))}</span></span>
        {#if mayGo(written)}<button
            class="btn shrink-0 max-md:h-12"
            aria-label="Take back: {written.said}"
            onclick={() => bush.takeBack(...written.records)}>Take back</button
          >{/if}
      </li>
    {:else}<li>Nothing was written down on this device yet. Older things are taken back in the life of their tree.</li>
    {/each}
  </ul>
</ModalDialog>
