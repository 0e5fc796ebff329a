<script lang="ts" generics="S extends Stop">
  import { wayTo, type Stop } from '@baumkin/core/bush';
  import { compassPoint } from '@baumkin/core/math';
  import Undo2 from '@lucide/svelte/icons/undo-2';
  import type { Snippet } from 'svelte';

  import { goto } from '$app/navigation';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { deviceSpace, keepForGood } from '$lib/client/deviceSpace.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { counted } from '$lib/labels/counted.ts';
  import FindTree from '$lib/frame/FindTree.svelte';
  import GoingThrough from '$lib/ui/GoingThrough.svelte';
  import ModalDialog from '$lib/ui/ModalDialog.svelte';

  import { readAloud } from './aloud.ts';
  import { keepAwake } from './keepAwake.ts';
  import type { Done, Walk } from './walk.svelte.ts';

  /** A round on a phone, whatever is asked: one tree, how to get there, one question; what was done last can be taken back. */
  interface Props {
    walk: Walk<S>;
    title: string;
    /** what is to be read before anything can be said; null once it is */
    reading?: { readonly done: number; readonly all: number } | null;
    /** what is left to do, counted in words, for the first tree */
    left: string;
    /** how much of the round is done, by all and by whoever walks here */
    progress: { readonly done: number; readonly of: number; readonly mine: number; readonly what: string };
    /** before it begins, and once nothing is left */
    start: Snippet;
    /** what stands beside the tag */
    about: Snippet<[stop: S]>;
    caution?: Snippet<[stop: S]>;
    question: Snippet<[stop: S]>;
    /** where there is no more to begin with */
    instead: Snippet;
    mayStart: boolean;
    /** what is read out at a tree, where that is wished; null while it is not known */
    aloud?: (stop: S) => string | null;
  }
  const {
    walk,
    title,
    reading = null,
    left,
    progress,
    start,
    about,
    caution,
    question,
    instead,
    mayStart,
    aloud
  }: Props = $props();
  const bush = useBush();
  const stop = $derived(walk.started ? walk.stop : null);
  const last = $derived(walk.done.at(-1) ?? null);
  const way = $derived.by(() => {
    const before = last && stop && last.treeId !== stop.treeId ? bush.byId.get(last.treeId) : null;
    const here = stop && bush.byId.get(stop.treeId);
    const found = before && here ? wayTo(before, here) : null;
    return before && found ? { ...found, tag: before.tag } : null;
  });

  const spoken = $derived(stop && aloud ? aloud(stop) : null);
  $effect(() => {
    if (spoken !== null) readAloud(spoken);
  });

  /** the list of the last things done is open */
  let looking = $state(false);
  async function takeBack(what: Done): Promise<void> {
    looking = false;
    await walk.takeBack(what);
  }

  /** She stands at another tree than the next one. */
  let finding = $state(false);
  function goThere(treeId: string): void {
    if (walk.ahead.some((each) => each.treeId === treeId)) void walk.goTo(treeId);
    else void goto(`/bush/${bush.id}/life/${treeId}`);
  }

  let space = $state.raw<Awaited<ReturnType<typeof deviceSpace>>>(null);
  $effect(() => {
    if (!walk.started) void deviceSpace().then((found) => (space = found));
  });
  async function begin(): Promise<void> {
    await walk.start();
    await keepForGood();
  }
  $effect(() => (walk.started ? keepAwake() : undefined));
</script>

<svelte:head><title>{title}</title></svelte:head>
<h1 class="sr-only">{title}, one tree at a time</h1>
{#if reading !== null || !walk.isRead}
  <GoingThrough done={reading?.done ?? 0} all={reading?.all ?? 0} />
{:else if stop}
  <div class="mx-auto flex h-full max-w-xl flex-col gap-2" data-testid="walk">
    <div class="flex min-h-12 shrink-0 items-center justify-between gap-2 text-base leading-tight">
      {#if last}
        <button
          class="min-h-12 min-w-0 truncate text-left underline"
          data-testid="walk-last"
          onclick={() => (looking = true)}>{last.says}</button
        >
      {:else}<span class="min-w-0 truncate">{left}</span>{/if}
      <span class="flex shrink-0 items-center gap-1">
        {#if last}<button class="btn h-12 btn-ghost text-base" disabled={walk.busy} onclick={() => walk.takeBack(last)}
            ><Undo2 size={20} /> Undo</button
          >{/if}
        <button class="btn h-12 btn-ghost text-base" onclick={() => walk.end()}>Stop</button>
      </span>
    </div>
    <div class="flex shrink-0 items-center gap-3">
      <div class="h-1.5 grow bg-base-300" aria-hidden="true">
        <div class="h-full bg-secondary" style:width="{(100 * progress.done) / Math.max(1, progress.of)}%"></div>
      </div>
      <p class="text-base leading-none tabular-nums" data-testid="walk-progress">
        {progress.done} of {progress.of}<span class="sr-only"> {progress.what}</span>{progress.mine > 0
          ? `, ${progress.mine} yours`
          : ''}
      </p>
    </div>
    <header class="flex shrink-0 items-baseline gap-3">
      <h2>
        <button
          class="min-h-12 min-w-12 text-left text-5xl leading-none font-bold tabular-nums underline decoration-2 underline-offset-8"
          data-testid="walk-tag"
          title="At another tree?"
          onclick={() => (finding = true)}>{bush.tagOf(stop.treeId)}</button
        >
      </h2>
      <p class="text-lg leading-tight">
        {#if way}<b
            >{preferences.length(1000 * way.metres, 'way')}{way.bearingDeg === null
              ? ''
              : ` ${compassPoint(way.bearingDeg)}`} of {way.tag}</b
          ><br />{/if}
        {@render about(stop)}
      </p>
    </header>
    {@render caution?.(stop)}
    {@render question(stop)}
  </div>
{:else}
  <div class="mx-auto flex h-full max-w-xl flex-col gap-3 text-lg" data-testid="walk-start">
    <div class="flex min-h-0 grow flex-col gap-4 overflow-y-auto *:shrink-0">
      {@render start()}
      <div class="grow"></div>
      {#if space && bush.progress === null}<p class="text-base" data-testid="device-space">
          This bush is on this device and works without a network: {space.megabytes < 1
            ? 'under 1'
            : Math.round(space.megabytes)} MB{space.kept
            ? '.'
            : ', which the browser may clear away when room runs short. Put the program on your home screen to keep it.'}
        </p>{/if}
    </div>
    {#if aloud && mayStart}<label class="flex min-h-12 items-center gap-3"
        ><input
          type="checkbox"
          class="toggle toggle-lg"
          bind:checked={() => preferences.aloud, (on) => preferences.setAloud(on)}
        /> Read each tree out</label
      >{/if}
    {#if mayStart}<button class="btn h-20 shrink-0 text-2xl btn-primary" onclick={begin}>Start</button>
    {:else}{@render instead()}{/if}
  </div>
{/if}

<FindTree bind:open={finding} near={stop?.treeId ?? null} onchoose={goThere} />
<ModalDialog bind:open={looking} title="What was done last">
  <p class="text-base">{counted(walk.doneToday, 'thing')} today on this device.</p>
  <ul class="flex flex-col text-lg" data-testid="walk-done">
    {#each walk.done.toReversed() as what (what.records[0]?.id)}
      <li class="flex min-h-14 items-center justify-between gap-3 border-b border-base-300">
        {what.says}
        <button class="btn h-12 text-base" disabled={walk.busy} onclick={() => takeBack(what)}>Take back</button>
      </li>
    {/each}
  </ul>
</ModalDialog>
