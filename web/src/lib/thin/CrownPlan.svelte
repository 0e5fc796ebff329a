<script lang="ts">
  import { toRadians } from '@baumkin/core/math';
  import type { SiteFeature } from '@baumkin/core/records';
  import { radiusOf, type StandTree } from '@baumkin/core/stand';
  import { freeSides, type SideState } from '@baumkin/core/thinning';

  import { preferences } from '$lib/client/preferences.svelte.ts';
  import Features from '$lib/ui/Features.svelte';

  /** One tree among its neighbours, seen from above, north up. */
  const {
    subject,
    trees,
    features,
    states,
    competing,
    taken,
    kept,
    ontoggle
  }: {
    subject: StandTree;
    trees: readonly StandTree[];
    features: readonly SiteFeature[];
    states: readonly SideState[];
    /** ids of the neighbours whose crowns touch */
    competing: ReadonlySet<string>;
    taken: ReadonlySet<string>;
    kept: ReadonlySet<string>;
    ontoggle: (id: string) => void;
  } = $props();

  const SIZE = 520;
  const reach = $derived(Math.max(11, radiusOf(subject) * 2 + 6));
  const scale = $derived(SIZE / (2 * reach));
  const across = (eastM: number) => SIZE / 2 + (eastM - subject.eastM) * scale;
  const down = (northM: number) => SIZE / 2 - (northM - subject.northM) * scale;
  const x = (t: StandTree) => across(t.eastM);
  const y = (t: StandTree) => down(t.northM);
  const near = $derived(
    trees.filter(
      (t) =>
        t.id !== subject.id &&
        Math.abs(t.eastM - subject.eastM) < reach + 5 &&
        Math.abs(t.northM - subject.northM) < reach + 5
    )
  );
  const bar = $derived(preferences.units === 'metric' ? { m: 5, label: '5 m' } : { m: 6.096, label: '20 ft' });

  /** The edge of a crown: a circle, or quarters of ellipses where its reach was measured in four directions. */
  function outline(tree: StandTree): string {
    const r = radiusOf(tree);
    const [n, e, s, w] = (tree.crownRadiiM ?? [r, r, r, r]).map((reach) => reach * scale) as [
      number,
      number,
      number,
      number
    ];
    const [cx, cy] = [x(tree), y(tree)];
    return `M${cx} ${cy - n} A${e} ${n} 0 0 1 ${cx + e} ${cy} A${e} ${s} 0 0 1 ${cx} ${cy + s} A${w} ${s} 0 0 1 ${cx - w} ${cy} A${w} ${n} 0 0 1 ${cx} ${cy - n} Z`;
  }

  /** A quarter circle round the crown, a little outside it. */
  function arc(i: number): string {
    const r = radiusOf(subject) * scale + 7;
    const at = (deg: number) => `${SIZE / 2 + r * Math.sin(toRadians(deg))} ${SIZE / 2 - r * Math.cos(toRadians(deg))}`;
    return `M${at(i * 90 - 41)} A${r} ${r} 0 0 1 ${at(i * 90 + 41)}`;
  }
</script>

<svg
  viewBox="0 0 {SIZE} {SIZE}"
  class="block max-h-[66vh] w-full max-w-[min(100%,66vh)] bg-base-200"
  role="group"
  aria-label="Tree {subject.tag} among its neighbours, from above"
>
  <Features {features} x={across} y={down} stroke={5} />
  {#each near as tree (tree.id)}
    {@const rival = competing.has(tree.id)}
    {@const out = taken.has(tree.id)}
    <!-- the list beside it has a button for each neighbour -->
    <!-- svelte-ignore a11y_click_events_have_key_events -->
    <g
      role="button"
      tabindex="-1"
      aria-label="Tree {tree.tag}{out ? ', marked to take' : ''}"
      class="cursor-pointer"
      onclick={() => ontoggle(tree.id)}
    >
      <path
        d={outline(tree)}
        class={out
          ? 'fill-base-100 stroke-base-content'
          : rival
            ? 'fill-primary/35 stroke-base-content'
            : 'fill-secondary/15 stroke-base-content/50'}
        stroke-width={rival ? 1.8 : 1}
        stroke-dasharray={out ? '5 4' : undefined}
      />
      {#if out}
        {@const k = Math.max(7, radiusOf(tree) * scale * 0.3)}
        <path
          d="M{x(tree) - k} {y(tree) - k} L{x(tree) + k} {y(tree) + k} M{x(tree) + k} {y(tree) - k} L{x(tree) - k} {y(
            tree
          ) + k}"
          class="stroke-base-content"
          stroke-width="3"
        />
      {/if}
      <circle cx={x(tree)} cy={y(tree)} r={Math.max(2.5, (tree.dbhMm / 2000) * scale)} class="fill-base-content" />
      {#if kept.has(tree.id)}<rect
          x={x(tree) - 8}
          y={y(tree) - 8}
          width="16"
          height="16"
          fill="none"
          class="stroke-base-content"
          stroke-width="2"
        />{/if}
      <text
        x={x(tree)}
        y={y(tree) - 9}
        text-anchor="middle"
        class="fill-base-content text-[14px] {rival ? 'font-bold' : ''}">{tree.tag}</text
      >
    </g>
  {/each}
  <path d={outline(subject)} class="fill-secondary/45 stroke-secondary" stroke-width="2" />
  <circle cx={SIZE / 2} cy={SIZE / 2} r={Math.max(4, (subject.dbhMm / 2000) * scale)} class="fill-base-content" />
  <text x={SIZE / 2} y={SIZE / 2 - 12} text-anchor="middle" class="fill-base-content text-[16px] font-bold"
    >{subject.tag}</text
  >
  {#each states as state, i (state.side)}
    {#if state.known}
      {@const free = freeSides([state], taken) === 1}
      <path
        d={arc(i)}
        fill="none"
        class={free ? 'stroke-secondary' : 'stroke-primary'}
        stroke-width={free ? 8 : 4}
        stroke-dasharray={free ? undefined : '3 7'}
        stroke-linecap={free ? 'round' : 'butt'}
      >
        <title>{state.side}: {free ? 'free' : 'blocked'}</title>
      </path>
    {/if}
  {/each}
  <g class="fill-base-content stroke-base-content" transform="translate(24 28)">
    <path d="M0 14 V-12 M-5 -5 L0 -13 L5 -5" fill="none" stroke-width="2" />
    <text x="10" y="4" class="text-[14px] font-bold" stroke="none">N</text>
  </g>
  <g class="fill-base-content stroke-base-content" transform="translate(24 {SIZE - 18})">
    <path d="M0 -5 V0 H{bar.m * scale} V-5" fill="none" stroke-width="2" />
    <text x={bar.m * scale + 6} y="2" class="text-[13px]" stroke="none">{bar.label}</text>
  </g>
</svg>
