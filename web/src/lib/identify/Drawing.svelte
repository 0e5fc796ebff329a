<script lang="ts">
  import type { CharacterId } from '@baumkin/core/identify';

  import { drawingOf, isFramed } from './drawings/index.ts';

  /** The drawing of a character's state. */
  const { character, state, size = 'h-20 w-20' }: { character: CharacterId; state: string; size?: string } = $props();
</script>

<svg
  viewBox="0 0 100 100"
  class="{size} shrink-0 {isFramed(character) ? '[clip-path:inset(2%_10.5%)]' : ''}"
  aria-hidden="true"
  stroke-linecap="round"
  stroke-linejoin="round"
>
  {#each drawingOf(character, state) as stroke, i (i)}
    <path
      d={stroke.d}
      fill={stroke.fill ?? 'none'}
      stroke={stroke.width === 0 ? 'none' : (stroke.ink ?? 'currentColor')}
      stroke-width={stroke.width ?? 1.5}
      opacity={stroke.opacity ?? 1}
    />
  {/each}
</svg>
