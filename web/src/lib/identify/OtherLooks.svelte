<script lang="ts">
  import type { Character, CharacterId, Evidence } from '@baumkin/core/identify';

  import { labelOf } from '$lib/labels/identify.ts';

  /** What was looked at so far, to be changed, and what else can be looked at. */
  interface Props {
    seen: readonly Character[];
    others: readonly Character[];
    evidence: Evidence;
    /** looked at, and nothing could be told */
    skipped: readonly CharacterId[];
    asked: CharacterId | null;
  }
  let { seen, others, evidence, skipped, asked = $bindable() }: Props = $props();
</script>

{#if seen.length > 0}
  <div class="mt-5">
    <h2 class="mb-1.5">Seen so far</h2>
    <ul class="flex flex-wrap gap-1.5">
      {#each seen as character (character.id)}
        <li>
          <button
            class="flex items-center gap-1.5 border border-base-300 bg-base-200 py-0.5 pr-2.5 pl-1 text-sm max-md:min-h-11 {asked ===
            character.id
              ? 'border-base-content font-bold'
              : ''}"
            onclick={() => (asked = character.id)}
            >{character.name}: <b>{labelOf(character, evidence[character.id]!).toLowerCase()}</b></button
          >
        </li>
      {/each}
    </ul>
  </div>
{/if}
{#if others.length > 0}
  <details class="mt-4">
    <summary class="cursor-pointer font-semibold max-md:py-2">Look at something else</summary>
    <ul class="mt-1.5 flex flex-wrap gap-1.5">
      {#each others as character (character.id)}
        <li>
          <button
            class="border border-base-300 px-2.5 py-0.5 text-sm max-md:min-h-11"
            onclick={() => (asked = character.id)}
            >{character.name}{skipped.includes(character.id) ? ': can’t tell' : ''}</button
          >
        </li>
      {/each}
    </ul>
  </details>
{/if}
