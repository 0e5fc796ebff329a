<script lang="ts">
  import type { Character, CharacterState } from '@baumkin/core/identify';

  import Drawing from './Drawing.svelte';

  const {
    character,
    state,
    hint = null,
    chosen,
    disabled,
    onchoose
  }: {
    character: Character;
    state: CharacterState;
    /** the key that chooses it */
    hint?: string | null;
    chosen: boolean;
    disabled: boolean;
    onchoose: () => void;
  } = $props();
</script>

<button
  type="button"
  class="relative flex min-h-11 flex-col items-center gap-1 border-2 p-2 text-center max-md:p-1.5 {chosen
    ? 'border-primary bg-primary/12'
    : 'border-base-300 hover:border-base-content/60'}"
  aria-pressed={chosen}
  {disabled}
  onclick={onchoose}
>
  <Drawing character={character.id} state={state.id} size="h-20 w-20 max-md:h-14 max-md:w-14" />
  <span class="flex flex-col">
    <span class="leading-tight font-semibold">{state.label}</span>
    <span class="aside text-[0.85rem] leading-tight">{state.description}</span>
  </span>
  {#if hint}<kbd class="absolute top-1 left-1.5 font-sans text-xs max-md:hidden" aria-hidden="true">{hint}</kbd>{/if}
</button>
