<script lang="ts" generics="T">
  import { felt } from './aloud.ts';

  /** What may be so, each on a button for a glove. */
  interface Props {
    choices: readonly { readonly value: T; readonly label: string; readonly meaning: string }[];
    onchoose: (value: T, label: string) => Promise<void>;
    /** what may be said instead of an answer */
    instead: { readonly label: string; readonly press: () => void };
    columns?: 1 | 2;
  }
  const { choices, onchoose, instead, columns = 2 }: Props = $props();
  let busy = $state(false);
  async function choose(value: T, label: string): Promise<void> {
    if (busy) return;
    busy = true;
    felt(false);
    try {
      await onchoose(value, label);
    } finally {
      busy = false;
    }
  }
</script>

<div class="grid shrink-0 gap-2 {columns === 2 ? 'grid-cols-2' : ''}">
  {#each choices as { value, label, meaning } (label)}
    <button
      class="min-h-18 border-2 border-current px-3 py-1.5 text-left text-xl leading-tight font-bold"
      disabled={busy}
      onclick={() => choose(value, label)}>{label}<span class="block text-base font-normal">{meaning}</span></button
    >
  {/each}
  <button class="btn h-14 btn-ghost text-lg {columns === 2 ? 'col-span-2' : ''}" disabled={busy} onclick={instead.press}
    >{instead.label}</button
  >
</div>
