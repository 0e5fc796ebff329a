<script lang="ts">
  import { lengthOf, type ListedTree } from '@baumkin/core/bush';
  import { speciesById } from '@baumkin/core/identify';
  import { CLEAR_TREE_LENGTHS } from '@baumkin/core/stand';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { cautionWords, nearWords } from '$lib/labels/thinning.ts';
  import Told from '$lib/ui/Told.svelte';

  import CutForm from './CutForm.svelte';

  /** Trees that come down, each with what its faller has to know before the saw is started. */
  interface Props {
    rows: readonly ListedTree[];
    label: string;
    /** the tree that the map beside shows */
    current: string | null;
    onpick: (treeId: string) => void;
  }
  const { rows, label, current, onpick }: Props = $props();
  const bush = useBush();
  const metres = (m: number) => preferences.length(m * 1000, 'ground');
  let cutting = $state<string | null>(null);
  const ordinal = (n: number) =>
    `${n}${n % 100 > 10 && n % 100 < 14 ? 'th' : (['th', 'st', 'nd', 'rd'][n % 10] ?? 'th')}`;
</script>

<table class="w-full text-left" aria-label={label}>
  <thead class="max-md:not-print:hidden"
    ><tr class="border-b-2 border-base-content"
      ><th class="py-1 pr-3 font-semibold">Tag</th><th class="pr-3 font-semibold">Tree</th><th
        class="pr-3 font-semibold">Why</th
      ><th class="pr-3 font-semibold">What to know</th><th class="pr-3 text-right font-semibold">Clear round it</th><th
        class="print:hidden"
      ></th><th class="hidden w-16 font-semibold print:table-cell">Done</th></tr
    ></thead
  >
  <tbody>
    {#each rows as each (each.row.id)}
      {@const { row, near } = each}
      <tr
        class="border-b border-base-300/70 align-top max-md:not-print:grid max-md:not-print:grid-cols-[3.2rem_1fr_auto] {current ===
        row.id
          ? 'bg-base-200 print:bg-transparent'
          : ''}"
      >
        <th class="py-1.5 pr-3"
          ><button class="link font-bold" onclick={() => onpick(row.id)} aria-label="Show tree {row.tag} on the map"
            >{row.tag}</button
          ></th
        >
        <td class="py-1.5 pr-3 font-semibold md:font-normal print:font-normal"
          >{row.species ? speciesById(row.species).name : 'species unsettled'}{row.dbhMm
            ? `, ${preferences.length(row.dbhMm, 'trunk')}`
            : ''}{lengthOf(each) === null ? '' : `, about ${metres(lengthOf(each)!)} tall`}{row.mark === 'girdle'
            ? '; girdle, do not fell'
            : ''}</td
        >
        <td
          class="py-1.5 pr-3 max-md:not-print:order-1 max-md:not-print:col-span-2 max-md:not-print:col-start-2 max-md:not-print:py-0"
          ><Told of={row.markReason} /></td
        >
        <td
          class="py-1.5 pr-3 max-md:not-print:order-2 max-md:not-print:col-span-2 max-md:not-print:col-start-2 max-md:not-print:py-0"
          ><Told of={cautionWords(each, metres).join('; ')} />{#if near.length > 0}<span class="block text-sm"
              >Within its length, {nearWords(near)}</span
            >{/if}{#if each.turn}<span class="aside block"
              >{ordinal(each.turn.at)} to come down for least hurt{each.turn.room === 0
                ? '; every way it can fall meets something'
                : ''}</span
            >{/if}</td
        >
        <td
          class="py-1.5 pr-3 text-right whitespace-nowrap tabular-nums max-md:not-print:order-3 max-md:not-print:col-span-2 max-md:not-print:col-start-2 max-md:not-print:text-left"
          ><span class="mr-1 md:hidden print:hidden">keep</span>{each.cautions
            ? metres(each.cautions.clearM)
            : `${CLEAR_TREE_LENGTHS} lengths`}<span class="ml-1 md:hidden print:hidden">clear round it</span></td
        >
        <td class="py-1 text-right print:hidden"
          >{#if bush.mayRecord}<button
              class="btn btn-outline btn-sm"
              aria-label="Log tree {row.tag}"
              onclick={() => (cutting = cutting === row.id ? null : row.id)}>Log</button
            >{/if}</td
        >
        <td class="hidden border-l border-base-300 print:table-cell"></td>
      </tr>
      {#if cutting === row.id}<tr class="max-md:not-print:block"
          ><td colspan="7" class="max-md:not-print:block"><CutForm {row} ondone={() => (cutting = null)} /></td></tr
        >{/if}
    {/each}
  </tbody>
</table>
