<script lang="ts">
  import ChevronLeft from '@lucide/svelte/icons/chevron-left';
  import ChevronRight from '@lucide/svelte/icons/chevron-right';
  import { hasComeTo, knownMaple, type Station, type TreeRow } from '@baumkin/core/records';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';

  /**
   * The trees in walking order as beads on a string, sized by diameter and toned by what the station wants to know: waiting, done, or not come so far.
   * Only the beads around the current one are drawn, however long the walk.
   */
  const {
    current,
    station,
    onchoose
  }: { current: string | null; station: Station | null; onchoose: (treeId: string) => void } = $props();
  const bush = useBush();

  const HEIGHT = 74;
  const STRING_Y = 30;
  let width = $state(1000);

  const radius = (row: TreeRow) => (row.dbhMm === null ? 6 : Math.max(5, Math.min(16, row.dbhMm / 30)));
  const index = $derived(
    Math.max(
      0,
      bush.walked.findIndex((row) => row.id === current)
    )
  );

  type Bead = {
    row: TreeRow;
    x: number;
    r: number;
    wants: boolean;
    done: boolean;
    idle: boolean;
    stand: string | null;
  };
  const beads = $derived.by(() => {
    const rows = bush.walked;
    const middle = width / 2;
    const out: Bead[] = [];
    const bead = (i: number, x: number): Bead => {
      const row = rows[i]!;
      const before = rows[i - 1];
      const wants = station !== null && bush.isOutstanding(station, row);
      const done = !wants && (station === null || hasComeTo(station, row));
      const idle = knownMaple(row) === false || (station === null && row.dbhMm === null);
      const stand = !before || before.standId !== row.standId ? (bush.standOf(row)?.name ?? null) : null;
      return { row, x, r: radius(row), wants, done, idle, stand };
    };
    if (rows.length === 0) return out;
    const gap = 5;
    out.push(bead(index, middle));
    for (let i = index + 1, x = middle + radius(rows[index]!) + 8; i < rows.length && x < width + 20; i++) {
      const r = radius(rows[i]!);
      out.push(bead(i, x + r + gap));
      x += 2 * r + gap;
    }
    for (let i = index - 1, x = middle - radius(rows[index]!) - 8; i >= 0 && x > -20; i--) {
      const r = radius(rows[i]!);
      out.unshift(bead(i, x - r - gap));
      x -= 2 * r + gap;
    }
    return out;
  });

  /** Where each stand's name is written: at its first tree, past the current tag and past the name before it. */
  const names = $derived.by(() => {
    const tag = bush.walked[index]?.tag ?? '';
    const from = width / 2 - tag.length * 4.5 - 8;
    const past = width / 2 + tag.length * 4.5 + 8;
    let free = -Infinity;
    return beads.flatMap((bead) => {
      if (bead.stand === null) return [];
      const long = bead.stand.length * 6.6;
      let x = Math.max(bead.x - bead.r + 2, free);
      if (x < past && x + long > from) x = past;
      free = x + long + 10;
      return [{ id: bead.row.id, says: bead.stand, x }];
    });
  });

  function label({ row, wants }: Bead): string {
    return `Tree ${row.tag}${row.dbhMm ? `, ${preferences.length(row.dbhMm, 'trunk')}` : ''}${wants ? ', waiting here' : ''}`;
  }
</script>

{#if bush.round}
  <p
    class="flex shrink-0 items-baseline gap-3 border-t border-base-300 bg-base-200 px-4 py-1 text-sm print:hidden"
    data-testid="round"
  >
    <b>A round of {bush.walked.length} trees.</b>
    <button class="link" onclick={() => bush.walkOnly(null)}>Back to the whole walk</button>
  </p>
{/if}
<div class="flex shrink-0 items-stretch border-t border-base-300 bg-base-200 max-md:hidden print:hidden">
  <button
    class="w-10 shrink-0 hover:bg-base-300"
    aria-label="Tree before ([)"
    disabled={index === 0}
    onclick={() => onchoose(bush.walked[index - 1]!.id)}
  >
    <ChevronLeft class="mx-auto" size={20} />
  </button>
  <div class="min-w-0 grow overflow-hidden" bind:clientWidth={width}>
    <svg {width} height={HEIGHT} role="group" aria-label="Trees in walking order">
      <line x1="0" x2={width} y1={STRING_Y} y2={STRING_Y} stroke="currentColor" stroke-width="1.5" opacity="0.45" />
      {#each names as name (name.id)}
        <text x={name.x} y={HEIGHT - 8} class="fill-current text-[12px]">{name.says}</text>
      {/each}
      {#each beads as bead (bead.row.id)}
        {@const here = bead.row.id === current}
        {#if bead.stand}
          <line
            x1={bead.x - bead.r - 3}
            x2={bead.x - bead.r - 3}
            y1="6"
            y2="60"
            stroke="currentColor"
            stroke-width="1"
            stroke-dasharray="2 3"
            opacity="0.6"
          />
        {/if}
        <!-- the keys [ and ] step along the whole string -->
        <!-- svelte-ignore a11y_click_events_have_key_events -->
        <g
          role="button"
          tabindex="-1"
          aria-label={label(bead)}
          aria-current={here ? 'true' : undefined}
          class="cursor-pointer"
          onclick={() => onchoose(bead.row.id)}
        >
          <title>{label(bead)}</title>
          <rect x={bead.x - bead.r - 2} y="4" width={bead.r * 2 + 4} height="56" fill="transparent" />
          {#if bead.idle}
            <rect x={bead.x - 4} y={STRING_Y - 4} width="8" height="8" class="fill-base-300 stroke-base-content/60" />
          {:else}
            <circle
              cx={bead.x}
              cy={STRING_Y}
              r={bead.r}
              class={bead.wants
                ? 'fill-base-100 stroke-primary'
                : bead.done
                  ? 'fill-secondary stroke-secondary'
                  : 'fill-base-300 stroke-base-content/60'}
              stroke-width={bead.wants ? 3.5 : 1}
            />
          {/if}
          {#if here}
            <circle
              cx={bead.x}
              cy={STRING_Y}
              r={Math.max(9, bead.r) + 4}
              fill="none"
              stroke="currentColor"
              stroke-width="2.5"
            />
            <text x={bead.x} y={HEIGHT - 8} text-anchor="middle" class="fill-current text-[14px] font-bold"
              >{bead.row.tag}</text
            >
          {/if}
        </g>
      {/each}
    </svg>
  </div>
  <button
    class="w-10 shrink-0 hover:bg-base-300"
    aria-label="Next tree (])"
    disabled={index >= bush.walked.length - 1}
    onclick={() => onchoose(bush.walked[index + 1]!.id)}
  >
    <ChevronRight class="mx-auto" size={20} />
  </button>
</div>
