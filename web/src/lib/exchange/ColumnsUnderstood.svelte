<script lang="ts">
  import { DATE_ORDERS, ROLES, type Role, type TableUnderstood } from '@baumkin/core/exchange';
  import { LENGTH_UNITS, type LengthUnit } from '@baumkin/core/units';

  import { DATE_ORDER_LABELS, ROLE_LABELS, WITH_UNIT } from '$lib/labels/importing.ts';

  import type { Importing } from './importing.svelte.ts';

  /** What each column of a table is taken to tell, with its first cells; any of it can be said otherwise. */
  const { importing, table, heading }: { importing: Importing; table: TableUnderstood; heading: readonly string[] } =
    $props();

  const columns = $derived(
    table.columns.map((use, i) => ({ ...use, name: heading[i]!, cells: table.shown.map((cells) => cells[i] ?? '') }))
  );
  const filled = $derived(columns.filter(({ name, cells }) => name.trim() !== '' || cells.some((cell) => cell !== '')));
  const leftOut = $derived(filled.filter(({ role }) => role === null).length);
  const guessed = $derived(filled.filter(({ by }) => by === 'content').length);
  const hasDays = $derived(columns.some(({ role }) => role === 'measuredOn' || role === 'determinedOn'));
  const tell = (name: string, role: Role | null, unit: LengthUnit | null) =>
    importing.tell({ columns: { [name]: { role, unit } } });
</script>

<details open={leftOut + guessed > 0} data-testid="columns">
  <summary class="cursor-pointer font-slab text-lg font-semibold">
    How the columns are understood{leftOut > 0 ? `: ${leftOut} left out` : ''}
  </summary>
  <table class="mt-2 w-full text-left max-md:block">
    <thead class="max-md:hidden">
      <tr class="border-b border-base-300">
        <th class="py-1 pr-4 font-semibold">Column</th><th class="pr-4 font-semibold">First cells</th><th
          class="pr-4 font-semibold">Tells</th
        ><th class="font-semibold">Unit</th>
      </tr>
    </thead>
    <tbody class="max-md:block">
      {#each filled as { name, cells, role, unit, by }, i (i)}
        <tr class="border-b border-base-300/60 max-md:grid max-md:grid-cols-2 max-md:gap-x-3 max-md:py-2">
          <th class="py-1 pr-4 font-semibold wrap-anywhere">{name}</th>
          <td class="pr-4 wrap-anywhere">{cells.filter((cell) => cell !== '').join(' · ') || 'empty'}</td>
          <td class="py-1 pr-4">
            <select
              class="select w-52 select-sm max-md:w-full {role === null ? 'opacity-80' : ''}"
              aria-label="What “{name}” tells"
              value={role ?? ''}
              onchange={(event) => tell(name, (event.currentTarget.value || null) as Role | null, unit)}
            >
              <option value="">left out</option>
              {#each ROLES as each (each)}<option value={each}>{ROLE_LABELS[each]}</option>{/each}
            </select>
            {#if by === 'content'}<span class="aside block">by what stands in it</span>{/if}
          </td>
          <td>
            {#if role && WITH_UNIT.includes(role)}
              <select
                class="select w-36 select-sm max-md:w-full"
                aria-label="Unit of “{name}”"
                value={unit ?? ''}
                onchange={(event) => tell(name, role, (event.currentTarget.value || null) as LengthUnit | null)}
              >
                <option value="">as written</option>
                {#each LENGTH_UNITS as each (each)}<option value={each}>{each}</option>{/each}
              </select>
            {/if}
          </td>
        </tr>
      {/each}
    </tbody>
  </table>
  {#if hasDays}
    <label class="mt-2 flex flex-wrap items-center gap-2"
      >Days are written
      <select
        class="select w-52 select-sm"
        value={table.dates ?? ''}
        onchange={(event) => {
          const order = DATE_ORDERS.find((each) => each === event.currentTarget.value);
          if (order) void importing.tell({ dates: order });
        }}
      >
        <option value="" disabled>as each shows</option>
        {#each DATE_ORDERS as each (each)}<option value={each}>{DATE_ORDER_LABELS[each]}</option>{/each}
      </select></label
    >
  {/if}
</details>
