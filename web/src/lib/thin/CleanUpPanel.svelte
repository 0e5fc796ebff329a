<script lang="ts">
  import { isMaple } from '@baumkin/core/identify';
  import type { StandTree } from '@baumkin/core/stand';
  import { M3_PER_CORD, M3_PER_CUBIC_YARD } from '@baumkin/core/units';
  import { cleanUp, isAsh, spreadWork } from '@baumkin/core/thinning';
  import { untrack } from 'svelte';

  import { counted } from '$lib/labels/counted.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import UnitNumber from '$lib/ui/UnitNumber.svelte';

  /** What lies on the ground afterwards, and whether there are days enough to clear it. */
  const { trees, left }: { trees: readonly StandTree[]; left: ReadonlySet<string> } = $props();
  const bush = useBush();
  const settings = $derived(bush.overview!.bush.settings);
  let stackedM3ADay = $state(untrack(() => settings.stackedM3ADay));
  let brushM3ADay = $state(untrack(() => settings.brushM3ADay));
  let daysAMonth = $state(untrack(() => settings.daysAMonth));
  const metric = $derived(preferences.units === 'metric');
  let problem = $state<string | null>(null);
  const sane = $derived(stackedM3ADay > 0 && brushM3ADay > 0 && daysAMonth > 0);
  const work = $derived(sane ? cleanUp(trees, { stackedM3ADay, brushM3ADay }, left) : null);
  const months = $derived.by(() => {
    if (!work || work.days === 0) return [];
    const [year, month] = bush.today.split('-').map(Number) as [number, number];
    return spreadWork(work.days, daysAMonth, month === 12 ? { year: year + 1, month: 1 } : { year, month: month + 1 }, {
      from: settings.quietFrom,
      to: settings.quietTo
    });
  });
  const kinds = $derived(new Set(trees.filter(({ id }) => !left.has(id)).map(({ species }) => species)));
  const longest = $derived(Math.max(1, ...months.map(({ days }) => days)));
  const NAMES = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'June', 'July', 'Aug', 'Sept', 'Oct', 'Nov', 'Dec'];
  const days = (n: number) => `${n < 10 ? n.toFixed(1) : Math.round(n)} ${n === 1 ? 'day' : 'days'}`;
  const last = $derived(months.at(-1));
</script>

<section aria-labelledby="clean-up" class="flex flex-col gap-3" data-testid="clean-up">
  <h2 id="clean-up">The clean-up</h2>
  {#if work && trees.length > 0}
    <p class="max-w-prose text-lg">
      {counted(work.trees, 'tree gives', 'trees give')} about {preferences.stacked(work.stackedM3)} of stacked firewood and
      {preferences.heap(work.brushM3)} of brush, or {preferences.heap(work.chipsM3)} of chips for {preferences.length(
        work.pathM * 1000,
        'ground'
      )} of path: {days(work.days)} of work{last
        ? `, done in ${NAMES[last.month - 1]} ${last.year} at ${daysAMonth} days a month`
        : ''}.
    </p>
    {#if kinds.has('redMaple') || kinds.has('blackCherry')}
      <p class="caution max-w-prose" data-testid="wilted">
        {#if kinds.has('redMaple')}Wilted leaves of red maple poison horses and their kin.{/if}
        {#if kinds.has('blackCherry')}Wilted leaves of black cherry poison cattle, sheep, goats and horses.{/if}
        Leave no leafy top where they graze. (Veterinary handbooks, from memory.)
      </p>
    {/if}
    {#if [...kinds].some((kind) => kind !== null && (isAsh(kind) || isMaple(kind)))}
      <p class="aside max-w-prose" data-testid="quarantine">
        Firewood of ash and maple may be under quarantine: ask before any leaves the place where it grew.
      </p>
    {/if}
    <form
      class="flex flex-wrap items-end gap-4"
      onsubmit={async (event) => {
        event.preventDefault();
        problem = await bush.change.settings({ stackedM3ADay, brushM3ADay, daysAMonth });
      }}
    >
      <UnitNumber
        label="firewood a day, {metric ? 'm³ stacked' : 'cords'}"
        bind:value={stackedM3ADay}
        unit={metric ? 1 : M3_PER_CORD}
        min={0.1}
        step={0.1}
      />
      <UnitNumber
        label="brush a day, {metric ? 'm³' : 'yd³'}"
        bind:value={brushM3ADay}
        unit={metric ? 1 : M3_PER_CUBIC_YARD}
        min={0.5}
        step={0.5}
      />
      <UnitNumber label="days a month" bind:value={daysAMonth} min={0.5} max={31} step={0.5} />
      {#if bush.mayDecide}<button class="btn btn-outline">Keep as our rate</button>{/if}
    </form>
    {#if problem !== null}<p role="alert" class="font-semibold text-error">{problem}</p>{/if}
    <ol class="flex max-w-2xl flex-col gap-1" aria-label="Work by month">
      {#each months as month (`${month.year}-${month.month}-${month.what}`)}
        <li class="grid grid-cols-[6rem_4.5rem_1fr_5rem] items-center gap-2">
          <span>{NAMES[month.month - 1]} {month.year}</span>
          <span class="aside">{month.what === 'fell' ? 'fell' : 'clear'}</span>
          <span
            class="h-3 {month.what === 'fell' ? 'bg-neutral' : 'bg-secondary/60'}"
            style:width="{(100 * month.days) / longest}%"
            aria-hidden="true"
          ></span>
          <span class="text-right tabular-nums">{days(month.days)}</span>
        </li>
      {/each}
    </ol>
    <p class="aside max-w-prose">
      Felling waits for bare branches and frozen ground, and stops before the sap runs; brush waits out the season and
      the quiet time of nests and young. Stem volume by the line through 31 felled black cherries (Ryan, Joiner and Ryan
      1976), a fifth more for branches, 65 % wood in a stack.
    </p>
  {:else}
    <p class="aside">Nothing is marked, so there is nothing to clear.</p>
  {/if}
</section>
