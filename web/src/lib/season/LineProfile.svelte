<script lang="ts">
  import type { LineJudged } from '@baumkin/core/bush';
  import { Z_EIGHTY } from '@baumkin/core/math';

  import { preferences } from '$lib/client/preferences.svelte.ts';

  /** A line from the side, its upper end to the left: how it falls, what is unknown of that, and where it does not. */
  const { judged }: { judged: LineJudged } = $props();
  let width = $state(700);
  const HEIGHT = 190;
  const [LEFT, RIGHT, TOP, FOOT] = [46, 10, 12, 26];
  const { profile, findings, lifting, lengthM } = $derived(judged);
  const nodes = $derived(
    profile.atM.map((at, i) => {
      const fall = i === 0 ? { mean: 0, sd: 0 } : profile.fall(0, i);
      return { at, down: fall.mean, doubt: Z_EIGHTY * fall.sd, lift: lifting?.liftsM[i] ?? 0 };
    })
  );
  const top = $derived(Math.min(0, ...nodes.map(({ down, doubt, lift }) => Math.min(down - doubt, down - lift))));
  const bottom = $derived(Math.max(0.5, ...nodes.map(({ down, doubt }) => down + doubt)));
  const x = $derived((at: number) => LEFT + ((width - LEFT - RIGHT) * at) / lengthM);
  const y = $derived((down: number) => TOP + ((HEIGHT - TOP - FOOT) * (down - top)) / (bottom - top));
  const course = (of: readonly { at: number; down: number }[]) =>
    of.map(({ at, down }, i) => `${i === 0 ? 'M' : 'L'}${x(at).toFixed(1)} ${y(down).toFixed(1)}`).join('');
  const band = $derived(
    `${course(nodes.map(({ at, down, doubt }) => ({ at, down: down - doubt })))}${course(
      nodes.map(({ at, down, doubt }) => ({ at, down: down + doubt })).toReversed()
    ).replace('M', 'L')}Z`
  );
  const told = $derived(
    findings.map(({ from, to, surety, fault }) => ({ path: course(nodes.slice(from, to + 1)), surety, fault }))
  );
  const lifted = $derived(
    lifting && lifting.mostM > 0.01 ? course(nodes.map(({ at, down, lift }) => ({ at, down: down - lift }))) : null
  );
  const ticks = $derived([0, 0.25, 0.5, 0.75, 1].map((share) => share * lengthM));
</script>

<div bind:clientWidth={width} class="w-full">
  <svg
    {width}
    height={HEIGHT}
    role="img"
    aria-label="{judged.line.name} from the side: it falls {preferences.length(
      1000 * nodes.at(-1)!.down,
      'way'
    )} over {preferences.length(1000 * lengthM, 'way')}"
    data-testid="line-profile"
  >
    <path d={band} class="fill-base-content/10" />
    {#if lifted}<path d={lifted} class="stroke-secondary" fill="none" stroke-width="1.5" stroke-dasharray="2 4" />{/if}
    <path d={course(nodes)} class="stroke-base-content" fill="none" stroke-width="2" />
    {#each told as { path, surety }, i (i)}
      <path
        d={path}
        class={surety === 'cannotBeTold' ? 'stroke-base-content/60' : 'stroke-primary'}
        fill="none"
        stroke-width={surety === 'sure' ? 6 : 4}
        stroke-dasharray={surety === 'cannotBeTold' ? '3 5' : null}
      />
    {/each}
    {#each nodes as { at, down }, i (i)}<circle cx={x(at)} cy={y(down)} r="2.5" class="fill-base-content" />{/each}
    {#each ticks as at, i (i)}
      <text
        x={x(at)}
        y={HEIGHT - 8}
        class="fill-base-content text-xs"
        text-anchor={i === 0 ? 'start' : i === ticks.length - 1 ? 'end' : 'middle'}
        >{preferences.length(1000 * at, 'way')}</text
      >
    {/each}
    <text x="0" y={y(0) + 4} class="fill-base-content text-xs">0</text>
    <text x="0" y={y(nodes.at(-1)!.down) + 4} class="fill-base-content text-xs"
      >−{preferences.length(1000 * nodes.at(-1)!.down, 'way')}</text
    >
  </svg>
</div>
