<script lang="ts" module>
  /** A column by its head, its place in the row's grid, and what its order goes by where it can be ordered. */
  export interface Column<Row> {
    readonly id: string;
    readonly label: string;
    /** a track of a CSS grid */
    readonly track: string;
    readonly orderBy?: (row: Row) => number | string;
    /** the first click puts the largest on top */
    readonly largestFirst?: boolean;
  }
</script>

<script lang="ts" generics="Row">
  import { untrack, type Snippet } from 'svelte';
  import type { SvelteSet } from 'svelte/reactivity';

  import WindowedList from './WindowedList.svelte';

  /**
   * Rows by the thousand under a head that orders them. To a hand on the keys a row is one thing: arrows step, what else a
   * key does is the page's. With `chosen`, rows can be chosen one by one, or with shift all in between.
   */
  interface Props {
    rows: readonly Row[];
    columns: readonly Column<Row>[];
    rowPx: number;
    idOf: (row: Row) => string;
    /** what a row says to those who do not see it */
    nameOf: (row: Row) => string;
    cells: Snippet<[row: Row]>;
    onkey?: (event: KeyboardEvent, row: Row) => void;
    chosen?: SvelteSet<string>;
    /** said where there is no row */
    nothing: string;
    /** the column that orders the rows to begin with */
    first?: string;
    /** below this the table scrolls sideways, rem */
    narrowestRem?: number;
  }
  const {
    rows,
    columns,
    rowPx,
    idOf,
    nameOf,
    cells,
    onkey,
    chosen,
    nothing,
    first,
    narrowestRem = 0
  }: Props = $props();

  /** the column that orders the rows; null leaves them as they came */
  let order = $state<{ readonly id: string; readonly down: boolean } | null>(
    untrack(() => (first === undefined ? null : { id: first, down: false }))
  );
  const shown = $derived.by(() => {
    const key = columns.find(({ id }) => id === order?.id)?.orderBy;
    if (!key) return rows;
    const sign = order!.down ? -1 : 1;
    return rows.toSorted((a, b) => {
      const [x, y] = [key(a), key(b)];
      return sign * (x < y ? -1 : x > y ? 1 : 0);
    });
  });
  const tracks = $derived([...(chosen ? ['1.5rem'] : []), ...columns.map(({ track }) => track)].join(' '));

  function orderBy({ id, largestFirst = false }: Column<Row>): void {
    order = { id, down: order?.id === id ? !order.down : largestFirst };
  }

  function onkeydown(event: KeyboardEvent, row: Row, index: number): void {
    const to = { ArrowDown: index + 1, ArrowUp: index - 1 }[event.key];
    if (to === undefined) return onkey?.(event, row);
    event.preventDefault();
    const list = (event.currentTarget as HTMLElement).closest('ul');
    list?.querySelector<HTMLElement>(`[data-index="${to}"]`)?.focus();
  }

  let last: number | null = null;
  function choose(index: number, event: MouseEvent): void {
    const on = !chosen!.has(idOf(shown[index]!));
    const from = event.shiftKey && last !== null ? last : index;
    for (const row of shown.slice(Math.min(from, index), Math.max(from, index) + 1))
      if (on) chosen!.add(idOf(row));
      else chosen!.delete(idOf(row));
    last = index;
  }
</script>

<div class={narrowestRem > 0 ? 'overflow-x-auto' : ''}>
  <div style:min-width="{narrowestRem}rem" style:--tracks={tracks}>
    {#if columns.some(({ label }) => label !== '')}
      <div
        class="grid grid-cols-(--tracks) gap-x-2 border-b-2 border-base-content py-1 text-sm font-semibold"
        role="group"
        aria-label="Order"
      >
        {#if chosen}<span></span>{/if}
        {#each columns as column (column.id)}
          {#if column.orderBy}
            <button
              class="text-left hover:underline"
              aria-pressed={order?.id === column.id}
              onclick={() => orderBy(column)}
              >{column.label}{order?.id === column.id ? (order.down ? ' ↓' : ' ↑') : ''}</button
            >
          {:else}<span>{column.label}</span>{/if}
        {/each}
      </div>
    {/if}
    <WindowedList items={shown} {rowPx}>
      {#snippet line(row, index)}
        <!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
        <div
          class="grid h-full grid-cols-(--tracks) items-center gap-x-2 focus:bg-base-200 {chosen?.has(idOf(row))
            ? 'bg-primary/12'
            : ''}"
          role="group"
          tabindex={onkey ? 0 : undefined}
          data-index={index}
          aria-label={nameOf(row)}
          onkeydown={(event) => onkeydown(event, row, index)}
        >
          {#if chosen}<input
              type="checkbox"
              class="checkbox ml-1 checkbox-sm"
              aria-label="Choose {nameOf(row)}"
              checked={chosen.has(idOf(row))}
              onclick={(event) => choose(index, event)}
            />{/if}
          {@render cells(row)}
        </div>
      {/snippet}
    </WindowedList>
  </div>
</div>
<!-- beside what scrolls sideways: it is read whole -->
{#if shown.length === 0}<p class="py-3">{nothing}</p>{/if}
