<script lang="ts" generics="R extends BushRecord">
  import type { BushRecord } from '@baumkin/core/records';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { saved } from '$lib/client/saved.ts';
  import { shortDay } from '$lib/labels/season.ts';

  /** What was written down of a season, the newest first, each with a way to take it back: from whatever device, by whoever may. */
  interface Props {
    title: string;
    /** those that hold, the oldest first */
    records: readonly R[];
    say: (record: R) => string;
  }
  const { title, records, say }: Props = $props();
  const bush = useBush();
  async function takeBack(record: R): Promise<void> {
    saved(bush, `Taken back: ${say(record)}.`, ...(await bush.withdraw(record)));
  }
</script>

{#if records.length > 0}
  <details class="mt-5 max-w-3xl print:hidden">
    <summary class="min-h-9 cursor-pointer font-semibold">{title}</summary>
    <ul>
      {#each records.toReversed() as record (record.id)}
        <li class="flex min-h-9 flex-wrap items-baseline gap-x-3 border-b border-base-300 py-1">
          <span class="grow"
            >{shortDay(record.on)}: {say(record)} <span class="aside">{bush.authorOf(record)}</span></span
          >
          {#if bush.mayTakeBack(record)}<button
              class="link text-sm max-md:min-h-12"
              aria-label="Take back: {shortDay(record.on)}, {say(record)}"
              onclick={() => takeBack(record)}>Take back</button
            >{/if}
        </li>
      {/each}
    </ul>
  </details>
{/if}
