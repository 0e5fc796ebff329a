<script lang="ts">
  import { standings, type ClueTable, type DatedAnswer, type LookSeason } from '@baumkin/core/identify';
  import { group } from 'd3-array';

  /** How the lessons of a season stand: what was begun, and what is held. */
  const { season, dated, table }: { season: LookSeason; dated: readonly DatedAnswer[]; table: ClueTable } = $props();
  /** A lesson by the looks that it takes. */
  const NAMES = new Map<number | null, string>([
    [1, 'One look tells them'],
    [2, 'Two looks'],
    [3, 'Three looks'],
    [4, 'Four looks and more'],
    [null, 'Hard in this season']
  ]);
  const now = $derived.by(() => (void dated, Date.now()));
  const all = $derived(standings(season, dated, now, table));
  const lessons = $derived(
    [...group(all, ({ looks }) => looks)].map(([looks, pairs]) => ({
      looks,
      of: pairs.length,
      begun: pairs.some(({ asked }) => asked > 0),
      held: pairs.filter((each) => each.held).length
    }))
  );
  const due = $derived(all.filter(({ dueAt }) => dueAt !== null && dueAt <= now).length);
</script>

<h2>Lessons</h2>
<table class="border-collapse text-left text-sm" data-testid="lessons">
  <thead><tr><th class="py-1 pr-3">Pairs, the easiest first</th><th class="py-1 text-right">held</th></tr></thead>
  <tbody>
    {#each lessons as { looks, of, begun, held } (looks)}
      <tr class="border-t border-base-300 {begun ? '' : 'opacity-80'}">
        <td class="py-1 pr-3">{NAMES.get(looks)}</td>
        <td class="py-1 text-right whitespace-nowrap tabular-nums">{held} of {of}</td>
      </tr>
    {/each}
  </tbody>
</table>
<p class="aside">
  {due > 0 ? `${due} due now. ` : ''}A pair comes again before it is likely to be forgotten: soon after a miss, then
  after days, weeks and months.
</p>
