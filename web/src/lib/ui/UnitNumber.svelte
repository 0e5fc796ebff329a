<script lang="ts">
  /** A number that is kept in one unit and typed in another. */
  let {
    label,
    value = $bindable(),
    unit = 1,
    min,
    step,
    max,
    digits = 1
  }: {
    label: string;
    /** in the unit in which it is kept */
    value: number;
    /** how many of those a typed one is */
    unit?: number;
    min: number;
    step: number;
    max?: number;
    /** shown after the point */
    digits?: number;
  } = $props();
</script>

<label class="flex flex-col gap-1"
  >{label}
  <input
    class="input w-28"
    type="number"
    required
    {min}
    {step}
    {max}
    value={Number((value / unit).toFixed(digits))}
    onchange={(event) => (value = event.currentTarget.valueAsNumber * unit)}
  /></label
>
