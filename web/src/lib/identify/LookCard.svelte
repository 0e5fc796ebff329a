<script lang="ts">
  import type { Character, CharacterState } from '@baumkin/core';

  import { drawingOf } from './drawings.ts';

  const {
    character,
    state,
    chosen,
    disabled,
    onchoose
  }: {
    character: Character;
    state: CharacterState;
    chosen: boolean;
    disabled: boolean;
    onchoose: () => void;
  } = $props();

  /** Patches of bark are cut off straight at their edges. */
  const framed = $derived(character.id === 'barkYoung' || character.id === 'barkGrown');
</script>

<button
  type="button"
  class="flex min-h-11 flex-col items-center gap-1 border-2 p-2 text-center max-md:flex-row max-md:gap-3 max-md:text-left {chosen
    ? 'border-primary bg-primary/12'
    : 'border-base-300 hover:border-base-content/60'}"
  aria-pressed={chosen}
  {disabled}
  onclick={onchoose}
>
  <svg
    viewBox="0 0 100 100"
    class="h-20 w-20 shrink-0 {framed ? '[clip-path:inset(2%_10.5%)]' : ''}"
    aria-hidden="true"
    stroke-linecap="round"
    stroke-linejoin="round"
  >
    {#each drawingOf(character.id, state.id) as stroke, i (i)}
      <path
        d={stroke.d}
        fill={stroke.fill ?? 'none'}
        stroke={stroke.width === 0 ? 'none' : 'currentColor'}
        stroke-width={stroke.width ?? 1.5}
        opacity={stroke.opacity ?? 1}
      />
    {/each}
  </svg>
  <span class="flex flex-col">
    <span class="leading-tight font-semibold">{state.label}</span>
    <span class="aside text-[0.85rem] leading-tight">{state.description}</span>
  </span>
</button>
