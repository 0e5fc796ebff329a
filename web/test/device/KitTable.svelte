<script lang="ts">
  import type { SvelteSet } from 'svelte/reactivity';

  import DataTable, { type Column } from '../../src/lib/ui/DataTable.svelte';

  /** A table of trees as a page would lay it, in a page that scrolls. */
  interface Row {
    readonly id: string;
    readonly size: number;
  }
  interface Props {
    rows: readonly Row[];
    chosen?: SvelteSet<string>;
    onkey?: (event: KeyboardEvent, row: Row) => void;
  }
  const { rows, chosen, onkey }: Props = $props();
  const COLUMNS: readonly Column<Row>[] = [
    { id: 'id', label: 'Tree', track: '4rem', orderBy: ({ id }) => Number(id) },
    { id: 'size', label: 'Size', track: '1fr', orderBy: ({ size }) => size, largestFirst: true },
    { id: 'note', label: 'Note', track: '1fr' }
  ];
</script>

<main>
  <DataTable
    {rows}
    columns={COLUMNS}
    rowPx={40}
    idOf={(row) => row.id}
    nameOf={(row) => `tree ${row.id}`}
    {chosen}
    {onkey}
    first="id"
    nothing="No tree is like that."
  >
    {#snippet cells(row: Row)}<span>{row.id}</span><span>{row.size}</span>{/snippet}
  </DataTable>
</main>
