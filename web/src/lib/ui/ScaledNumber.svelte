<script lang="ts" module>
  /** How a number is shown that is kept in another unit. */
  export interface Scale {
    readonly shown: (kept: number) => number;
    readonly kept: (shown: number) => number;
    readonly name: string;
  }
</script>

<script lang="ts">
  /** A number that may be missing, kept in one unit and typed in the steward's. What nobody types stays as it was, to the hair. */
  let {
    value = $bindable(),
    scale,
    label,
    required = false,
    placeholder,
    min,
    max,
    disabled = false,
    onfocus,
    onset,
    digits = 2,
    class: look = 'input w-24'
  }: {
    value: number | null;
    scale: Scale;
    /** its name, where no label stands round it */
    label?: string;
    required?: boolean;
    placeholder?: string;
    /** in the unit in which it is kept */
    min?: number;
    max?: number;
    disabled?: boolean;
    onfocus?: () => void;
    /** told when it is let go, after something was typed */
    onset?: () => void;
    /** shown after the point */
    digits?: number;
    class?: string;
  } = $props();
  /** what stands there while it is typed */
  let typed = $state<string | null>(null);
  const shown = (kept: number | undefined) =>
    kept === undefined ? undefined : Number(scale.shown(kept).toFixed(digits));
</script>

<input
  class={look}
  type="number"
  step="any"
  aria-label={label}
  {required}
  {placeholder}
  min={shown(min)}
  max={shown(max)}
  value={typed ?? (value === null ? '' : shown(value))}
  {disabled}
  {onfocus}
  onchange={() => onset?.()}
  onblur={() => (typed = null)}
  oninput={(event) => {
    typed = event.currentTarget.value;
    const number = event.currentTarget.valueAsNumber;
    value = Number.isNaN(number) ? null : Number(scale.kept(number).toFixed(4));
  }}
/>
{scale.name}
