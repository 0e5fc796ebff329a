<script lang="ts">
  import type { BadRow } from '@baumkin/core/exchange';

  /** Rows that were left out, each with its reason. */
  const { bad, heading, onsave }: { bad: readonly BadRow[]; heading: readonly string[]; onsave: () => void } = $props();
  const SHOWN = 100;
</script>

<div>
  <h3 class="text-base">Rows left out, and why</h3>
  <p class="aside">
    Mend them in your file and bring it in again. <button class="link" onclick={onsave}
      >Take these rows as a file</button
    >.
  </p>
  <table class="mt-1 w-full text-left">
    <thead
      ><tr class="border-b border-base-300"
        ><th class="py-1 pr-4 font-semibold">Line</th><th class="pr-4 font-semibold">Column</th><th
          class="pr-4 font-semibold">Why</th
        ><th class="font-semibold">As it stands</th></tr
      ></thead
    >
    <tbody>
      {#each bad.slice(0, SHOWN) as row, i (i)}
        <tr class="border-b border-base-300/60 align-top">
          <td class="py-1 pr-4">{row.line}</td><td class="pr-4">{row.column ?? ''}</td><td class="pr-4">{row.reason}</td
          >
          <td class="aside break-all"
            >{row.cells
              .slice(0, heading.length + 2)
              .join(' | ')
              .slice(0, 160)}</td
          >
        </tr>
      {/each}
    </tbody>
  </table>
  {#if bad.length > SHOWN}<p class="aside">and {bad.length - SHOWN} more, in the file.</p>{/if}
</div>
