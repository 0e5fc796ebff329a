<script lang="ts">
  import type { Snippet } from 'svelte';

  /** A slider under what it says. */
  let {
    label,
    value = $bindable(),
    min,
    max,
    step,
    disabled = false,
    onset,
    says
  }: {
    /** its name for those who do not see what stands above it */
    label: string;
    value: number;
    min: number;
    max: number;
    step: number;
    disabled?: boolean;
    /** told when it is let go */
    onset?: () => void;
    says?: Snippet;
  } = $props();
  const uid = $props.id();
</script>

<label class="flex flex-col gap-0.5" for={uid}
  >{@render says?.()}
  <input
    id={uid}
    type="range"
    class="range range-sm"
    {min}
    {max}
    {step}
    {disabled}
    aria-label={label}
    bind:value
    onchange={() => onset?.()}
  /></label
>
