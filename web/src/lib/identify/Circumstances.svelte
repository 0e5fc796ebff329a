<script lang="ts">
  import { AGE_CLASSES, LOOK_SEASONS, type AgeClass, type Character, type LookSeason } from '@baumkin/core/identify';

  import { AGE_NAMES, labelOf, SEASON_NAMES } from '$lib/labels/identify.ts';

  /** What decides which clues can be seen, and how far they go: the season, the bark's age, and whose twigs were seen. */
  interface Props {
    season: LookSeason;
    age: AgeClass;
    twigsFrom: string | undefined;
    /** the character that says whose twigs they are */
    twigs: Character;
    onchange: () => void;
  }
  let { season = $bindable(), age = $bindable(), twigsFrom = $bindable(), twigs, onchange }: Props = $props();
  /** on a phone they are closed until somebody wants to change them */
  let open = $state(false);
</script>

<button
  class="mb-2 min-h-11 text-left text-sm underline underline-offset-4 md:hidden"
  aria-expanded={open}
  onclick={() => (open = !open)}
  >The woods are {SEASON_NAMES[season]}, its bark is {AGE_NAMES[age]}, the twigs are {labelOf(
    twigs,
    twigsFrom ?? 'own'
  ).toLowerCase()}</button
>
<div class="mb-3 flex flex-wrap gap-x-6 gap-y-1.5 text-sm {open ? '' : 'max-md:hidden'}">
  <fieldset class="flex flex-wrap items-center gap-x-3 gap-y-1">
    <legend class="float-left mr-3 font-semibold">The woods are</legend>
    {#each LOOK_SEASONS as each (each)}
      <label class="flex min-h-6 items-center gap-1.5"
        ><input type="radio" class="radio radio-xs" value={each} bind:group={season} {onchange} />
        {SEASON_NAMES[each]}</label
      >
    {/each}
  </fieldset>
  <fieldset class="flex flex-wrap items-center gap-x-3 gap-y-1">
    <legend class="float-left mr-3 font-semibold">Its bark is</legend>
    {#each AGE_CLASSES as each (each)}
      <label class="flex min-h-6 items-center gap-1.5"
        ><input type="radio" class="radio radio-xs" value={each} bind:group={age} {onchange} />
        {AGE_NAMES[each]}</label
      >
    {/each}
  </fieldset>
  <fieldset class="flex flex-wrap items-center gap-x-3 gap-y-1" data-testid="whose-twigs">
    <legend class="float-left mr-3 font-semibold">The twigs are</legend>
    {#each twigs.states as state (state.id)}
      <label class="flex min-h-6 items-center gap-1.5" title={state.description}
        ><input type="radio" class="radio radio-xs" value={state.id} bind:group={twigsFrom} {onchange} />
        {state.label.toLowerCase()}</label
      >
    {/each}
  </fieldset>
</div>
