<script lang="ts">
  import { groupFaults, type BadRow } from '@baumkin/core/exchange';

  import { capital } from '$lib/words/capital.ts';
  import { counted } from '$lib/labels/counted.ts';

  /** Rows that no answer mends: by column, each with its reason. They are mended in the file. */
  const { bad, heading, onsave }: { bad: readonly BadRow[]; heading: readonly string[]; onsave: () => void } = $props();
  const groups = $derived(groupFaults(bad));
  const SHOWN = 25;
</script>

<section aria-labelledby="bad-rows">
  <h3 id="bad-rows" class="text-base">To be mended in the file</h3>
  <p class="aside">
    Mend them there and bring it in again; what came in by then is left as it is. <button class="link" onclick={onsave}
      >Take these rows as a file</button
    >.
  </p>
  {#each groups as { column, rows } (column)}
    <details class="mt-1" open={groups.length === 1}>
      <summary class="cursor-pointer"
        ><b>{capital((column ?? 'the whole row').replaceAll('_', ' '))}</b>: {counted(rows.length, 'row')}.
        <span class="aside">{rows[0]!.reason}</span></summary
      >
      <table class="mt-1 w-full text-left">
        <thead
          ><tr class="border-b border-base-300"
            ><th class="py-1 pr-4 font-semibold">Line</th><th class="pr-4 font-semibold">Why</th><th
              class="font-semibold">As it stands</th
            ></tr
          ></thead
        >
        <tbody>
          {#each rows.slice(0, SHOWN) as row, i (i)}
            <tr class="border-b border-base-300/60 align-top">
              <td class="py-1 pr-4">{row.line}</td><td class="pr-4">{row.reason}</td>
              <td class="aside wrap-anywhere"
                >{row.cells
                  .slice(0, heading.length + 2)
                  .join(' | ')
                  .slice(0, 160)}</td
              >
            </tr>
          {/each}
        </tbody>
      </table>
      {#if rows.length > SHOWN}<p class="aside">and {rows.length - SHOWN} more, in the file.</p>{/if}
    </details>
  {/each}
</section>
