<script lang="ts" generics="T, S extends Stop">
  import type { Stop } from '@baumkin/core/bush';

  import { felt } from './aloud.ts';
  import type { Walk } from './walk.svelte.ts';

  /** What may be so, each on a button for a glove. */
  interface Props {
    walk: Walk<S>;
    choices: readonly { readonly value: T; readonly label: string; readonly meaning: string }[];
    onchoose: (value: T, label: string) => Promise<void>;
    /** what may be said instead of an answer */
    instead: { readonly label: string; readonly press: () => void };
    columns?: 1 | 2;
  }
  const { walk, choices, onchoose, instead, columns = 2 }: Props = $props();
  function choose(value: T, label: string): Promise<void> {
    felt(false);
    return walk.write(() => onchoose(value, label));
  }
</script>

<div class="grid shrink-0 gap-2 {columns === 2 ? 'grid-cols-2' : ''}">
  {#each choices as { value, label, meaning } (label)}
    <button
      class="min-h-18 border-2 border-current px-3 py-1.5 text-left text-xl leading-tight font-bold"
      disabled={walk.busy}
      onclick={() => choose(value, label)}>{label}<span class="block text-base font-normal">{meaning}</span></button
    >
  {/each}
  <button
    class="btn h-14 btn-ghost text-lg {columns === 2 ? 'col-span-2' : ''}"
    disabled={walk.busy}
    onclick={instead.press}>{instead.label}</button
  >
</div>
