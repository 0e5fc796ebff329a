<script lang="ts">
  /** A day of the year without its year, as month-day: 04-15. */
  let { value = $bindable(), label }: { value: string; label: string } = $props();
  const [month, day] = $derived(value.split('-').map(Number) as [number, number]);
  const MONTHS = Array.from({ length: 12 }, (_, i) =>
    new Date(Date.UTC(2000, i, 1)).toLocaleDateString('en-GB', { month: 'long', timeZone: 'UTC' })
  );
  const daysOf = (m: number) => new Date(Date.UTC(2000, m, 0)).getUTCDate();
  const set = (m: number, d: number) =>
    (value = `${String(m).padStart(2, '0')}-${String(Math.min(d, daysOf(m))).padStart(2, '0')}`);
</script>

<span class="flex items-center gap-1.5" role="group" aria-label={label}>
  {label}
  <select
    class="select w-auto"
    aria-label="{label}, day"
    value={day}
    onchange={(event) => set(month, Number(event.currentTarget.value))}
  >
    {#each { length: daysOf(month) } as _, i (i)}<option value={i + 1}>{i + 1}</option>{/each}
  </select>
  <select
    class="select w-auto"
    aria-label="{label}, month"
    value={month}
    onchange={(event) => set(Number(event.currentTarget.value), day)}
  >
    {#each MONTHS as name, i (name)}<option value={i + 1}>{name}</option>{/each}
  </select>
</span>
