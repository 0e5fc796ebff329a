<script lang="ts">
  import { DRAWN, type DrawnId } from './drawn.ts';
  import type { Stroke } from '../identify/drawings/stroke.ts';

  /** A drawing of how it is done; its numbers are those of the steps below it, which say the same. */
  const { id }: { id: DrawnId } = $props();
</script>

{#snippet stroke(each: Stroke & { dash?: boolean })}
  <path
    d={each.d}
    fill={each.fill ?? 'none'}
    stroke={each.width === 0 ? 'none' : (each.ink ?? 'currentColor')}
    stroke-width={each.width ?? 1.5}
    stroke-dasharray={each.dash ? '1 4.5' : undefined}
    opacity={each.opacity ?? 1}
  />
{/snippet}

<svg
  viewBox="0 0 360 150"
  class="mx-auto block w-full max-w-lg rounded-md bg-base-200"
  aria-hidden="true"
  data-drawn={id}
  stroke-linecap="round"
  stroke-linejoin="round"
>
  {#each DRAWN[id] as piece, i (i)}
    {#if 'look' in piece}
      <g transform="translate({piece.at[0]} {piece.at[1]}) scale({piece.scale})">
        {#each piece.look as each, n (n)}{@render stroke(each)}{/each}
      </g>
    {:else if 'says' in piece}
      <text x={piece.at[0]} y={piece.at[1]} text-anchor={piece.anchor} font-size="11" fill="currentColor"
        >{piece.says}</text
      >
    {:else if 'step' in piece}
      <circle cx={piece.at[0]} cy={piece.at[1]} r="8" fill="currentColor" />
      <text x={piece.at[0]} y={piece.at[1] + 4} text-anchor="middle" font-size="11" class="fill-base-100 font-bold"
        >{piece.step}</text
      >
    {:else}
      {@render stroke(piece)}
    {/if}
  {/each}
</svg>
