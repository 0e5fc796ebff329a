<script lang="ts">
  import { walkRows } from '@baumkin/core/bush';
  import { speciesById } from '@baumkin/core/identify';
  import type { TreeRow } from '@baumkin/core/records';
  import { group } from 'd3-array';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { chanceInWords } from '$lib/labels/chance.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { plannedOn } from '$lib/labels/rotation.ts';

  import HighHole from './HighHole.svelte';
  import Sketch from './Sketch.svelte';
  import type { RoundLine, TappingRound } from './tappingRound.svelte.ts';

  /** The round on paper: a card for each tree, or rows along the walk, each helper's own. */
  interface Props {
    /** what is printed just now; nothing on the screen shows it */
    printing: 'cards' | 'list' | null;
    round: TappingRound;
    /** trees with holes to drill */
    lines: readonly RoundLine[];
    helperOf: (line: RoundLine) => string | null;
    /** when it was printed before; null where it was not */
    printedBefore: string | null;
    /** trees that are new since then */
    fresh: ReadonlySet<string>;
  }
  const { printing, round, lines: printed, helperOf, printedBefore, fresh: freshOnPaper }: Props = $props();
  const bush = useBush();
  const settings = $derived(bush.overview!.bush.settings);
  const since = ({ state: { rotation } }: RoundLine) =>
    rotation ? plannedOn(rotation, rotation.earlier.coming ?? null) : '';
  const speciesOf = (row: TreeRow) => (row.species ? speciesById(row.species).name : 'maple');
  const CARDS_A_PAGE = 4;
  /** cards in walking order, each helper's on pages of their own */
  const cardPages = $derived(
    [...group(printed, helperOf).values()].flatMap((own) =>
      Array.from({ length: Math.ceil(own.length / CARDS_A_PAGE) }, (_, i) =>
        own.slice(CARDS_A_PAGE * i, CARDS_A_PAGE * (i + 1))
      )
    )
  );
  /** Boxes to tick, under the letters by which cards are typed in the evening. */
  const BOXES = [
    ['p', 'pale'],
    ['t', 'partly'],
    ['b', 'brown'],
    ['d', 'dry']
  ] as const;
  /** rows of each helper, in walking order */
  const rows = $derived(
    [...group(printed, helperOf)].flatMap(([helper, lines]) => {
      const own = walkRows(lines);
      return own.map((row, i) => ({ ...row, helper, part: i + 1, of: own.length }));
    })
  );
</script>

{#if printing === 'cards'}
  <div class="hidden print:block" data-testid="cards">
    {#each cardPages as page, i (i)}
      <div class="grid h-[97vh] grid-cols-2 grid-rows-2 gap-4 bg-white text-black not-last:break-after-page">
        {#each page as item (item.row.id)}
          <article class="flex min-h-0 flex-col overflow-hidden border-2 border-black p-3">
            <header class="flex items-baseline justify-between border-b-2 border-black">
              <h2 class="text-3xl">
                {item.row.tag}{#if freshOnPaper.has(item.row.id)}<span class="ml-2 text-xs"
                    >new since {printedBefore}</span
                  >{/if}
              </h2>
              <p class="text-right text-xs leading-tight">
                {[bush.overview!.bush.name, bush.standOf(item.row)?.name].filter(Boolean).join(', ')}<br />{helperOf(
                  item
                )
                  ? `${helperOf(item)}, `
                  : ''}season {bush.season}{bush.paintOf(bush.season) ? `, ${bush.paintOf(bush.season)} paint` : ''}<br
                />planned {since(item)}, printed {bush.today}
              </p>
            </header>
            <p class="mt-1 text-sm">
              {speciesOf(item.row)}, {preferences.length(item.row.dbhMm!, 'trunk')}; tape at {round.tapeAt(
                item
              )}{#if round.isShallow(item)}<b>: shallower than usual</b>{/if}
            </p>
            {#each item.open as hole, k (k)}
              {@const words = round.said(item, hole)}
              <p class="mt-2 font-slab text-lg leading-tight font-semibold">
                {item.open.length > 1 ? `${k + 1}: ` : ''}{words.sentence}
              </p>
              <p class="text-sm">
                {words.bodyHeight}, {preferences.length(hole.heightMm, 'hand')}; {words.compass}; clear {chanceInWords(
                  hole.pClear
                )}
              </p>
              {#if words.highBare && bush.hangsBuckets(item.row.id)}<HighHole heightMm={hole.heightMm} plain />{/if}
              <p class="mt-1 flex flex-wrap gap-x-3 text-xs">
                {#each BOXES as [letter, seen] (letter)}<span class="flex items-center gap-1"
                    ><span class="inline-block h-3 w-3 border border-black"></span><b>{letter}</b> {seen}</span
                  >{/each}
              </p>
            {/each}
            <Sketch task={item.placing.task} holes={item.placing.holes} spots={item.open} />
            <p class="mt-auto border-t border-black pt-1 text-[10px]">
              Both hands on the drill, firm footing, goggles. Local rules and trained people come first.
            </p>
          </article>
        {/each}
      </div>
    {/each}
  </div>
{:else if printing === 'list'}
  <div class="hidden bg-white text-black print:block" data-testid="rows">
    {#each rows as { standId: stand, lines: trees, holes, helper, part, of }, i (i)}
      <table class="w-full text-left text-sm not-last:break-after-page">
        <caption class="pb-2 text-left">
          <b class="font-slab text-lg"
            >{`${helper ? `${helper}, row` : 'Row'} ${part} of ${of}`}: {trees.length === 1
              ? `tree ${trees[0]!.row.tag}`
              : `trees ${trees[0]!.row.tag} to ${trees.at(-1)!.row.tag}`}</b
          ><br />
          {bush.overview!.bush.name}{stand ? `, ${bush.overview!.stands.find(({ id }) => id === stand)?.name}` : ''},
          season
          {bush.season}. {counted(holes, 'hole')}, {round.timeFor(holes)}; {preferences.length(settings.bitMm, 'bit')} bit{bush.paintOf(
            bush.season
          )
            ? `; ${bush.paintOf(bush.season)} paint`
            : ''}. Shavings: p pale, t partly brown, b brown, d dry. Printed {bush.today}{printedBefore
            ? `; * new since the print of ${printedBefore}`
            : ''}.
        </caption>
        <thead
          ><tr class="border-b-2 border-black"
            ><th>Tree</th><th>Where</th><th>Height</th><th>Clear</th><th>Tape at</th><th>Planned</th><th>Shavings</th
            ></tr
          ></thead
        >
        <tbody>
          {#each trees as item (item.row.id)}
            {#each item.open as hole, k (k)}
              {@const words = round.said(item, hole)}
              <tr class="break-inside-avoid border-b border-black/40">
                <th class="py-1.5 pr-3 align-top text-base"
                  >{k === 0 ? item.row.tag : ''}{k === 0 && freshOnPaper.has(item.row.id) ? ' *' : ''}</th
                >
                <td class="pr-3">{words.sentence} <span class="text-xs">{words.compass}</span></td>
                <td class="pr-3"
                  >{words.bodyHeight}, {preferences.length(hole.heightMm, 'hand')}{words.highBare &&
                  bush.hangsBuckets(item.row.id)
                    ? '; too high for a bucket when the snow is gone'
                    : ''}</td
                >
                <td class="pr-3">{chanceInWords(hole.pClear)}</td>
                <td class="pr-3 whitespace-nowrap"
                  >{#if round.isShallow(item)}<b>{round.tapeAt(item)}</b>, shallower{:else}{round.tapeAt(item)}{/if}</td
                >
                <td class="pr-3 text-xs whitespace-nowrap">{since(item)}</td>
                <td class="border-l border-black/40 pl-2 whitespace-nowrap"
                  >{#each BOXES as [letter] (letter)}<span class="mr-2 inline-flex items-center gap-0.5"
                      ><span class="inline-block h-3 w-3 border border-black"></span><b>{letter}</b></span
                    >{/each}</td
                >
              </tr>
            {/each}
          {/each}
        </tbody>
      </table>
    {/each}
  </div>
{/if}
