<script lang="ts">
  import { STATIONS, type Station } from '@baumkin/core/records';
  import ChevronLeft from '@lucide/svelte/icons/chevron-left';
  import ChevronRight from '@lucide/svelte/icons/chevron-right';
  import Search from '@lucide/svelte/icons/search';
  import { untrack } from 'svelte';

  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import { BushState } from '$lib/client/bush.svelte.ts';
  import BushContext from '$lib/client/BushContext.svelte';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import BeadString from '$lib/frame/BeadString.svelte';
  import FindTree from '$lib/frame/FindTree.svelte';
  import NewVersion from '$lib/frame/NewVersion.svelte';
  import Refused from '$lib/frame/Refused.svelte';
  import SignInAgain from '$lib/frame/SignInAgain.svelte';
  import { stationHref } from '$lib/frame/pages.ts';
  import { TRAIL } from '$lib/frame/stations.ts';
  import TopLine from '$lib/frame/TopLine.svelte';
  import Trail from '$lib/frame/Trail.svelte';
  import HelpDialog from '$lib/help/HelpDialog.svelte';
  import Opening from '$lib/ui/Opening.svelte';

  const { children } = $props();

  // By way of its id: the parameters are a new object at every step, the bush is not.
  const bushId = $derived(page.params.bush!);
  const bush = $derived(new BushState(bushId));
  $effect(() => {
    const opened = bush;
    untrack(() => void opened.open());
    return () => opened.close();
  });

  let lastTree = $state<string | null>(null);
  $effect(() => {
    if (page.params.tree) lastTree = page.params.tree;
  });
  /** the tree of the page, or the last one on pages that have none */
  const treeId = $derived(page.params.tree ?? lastTree);
  /** A station, the life of a tree, or null on the other pages; a station's own pages belong to it. */
  const where = $derived.by(() => {
    const part = page.url.pathname.split('/')[3] ?? '';
    return part === 'life' || STATIONS.some((s) => s === part) ? part : null;
  });
  const station = $derived<Station | null>(STATIONS.find((s) => s === where) ?? null);
  const walking = $derived(page.route.id?.startsWith('/bush/[bush]/walk') ?? false);
  const index = $derived(bush.walked.findIndex((row) => row.id === treeId));
  const tag = $derived(treeId ? (bush.byId.get(treeId)?.tag ?? null) : null);

  let helpOpen = $state(false);
  let helpWith = $state<'here' | 'words' | 'keys' | 'new'>('here');
  function help(part: 'here' | 'keys'): void {
    helpWith = part;
    helpOpen = true;
  }
  // A shortcut of the installed program asks for it at once.
  let findOpen = $state(untrack(() => page.url.searchParams.has('find')));

  /** The tree that is being gone to: keys pressed faster than the page follows count on from there. */
  let heading: string | null = null;

  function choose(id: string): void {
    heading = id;
    void goto(`/bush/${bush.id}/${where ?? 'life'}/${id}`, { keepFocus: true }).finally(() => {
      if (heading === id) heading = null;
    });
  }

  const position = () => (heading ? bush.walked.findIndex((row) => row.id === heading) : index);

  function step(by: number): void {
    const row = bush.walked[position() + by];
    if (row) choose(row.id);
  }

  /** The next tree in walking order that waits at this station, from the current one round to it again. */
  function nextWaiting(): void {
    if (!station) return;
    const rows = bush.walked;
    const from = position();
    for (let i = 1; i <= rows.length; i++) {
      const row = rows[(from + i) % rows.length]!;
      if (bush.isOutstanding(station, row)) return choose(row.id);
    }
  }

  const until = (at: string) =>
    new Date(at).toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' });

  function onkeydown(event: KeyboardEvent): void {
    const target = event.target as HTMLElement;
    if (event.ctrlKey || event.metaKey || event.altKey || document.querySelector('dialog[open]')) return;
    if (target.closest('input:not([type=radio]):not([type=range]), textarea, select, [contenteditable]')) return;
    const trail = TRAIL.find((s) => s.key === event.key);
    const action = trail
      ? () => void goto(stationHref(bush.id, trail.id, treeId))
      : {
          '[': () => step(-1),
          ']': () => step(1),
          n: nextWaiting,
          '/': () => (findOpen = true),
          '?': () => help('keys'),
          m: () => void goto(`/bush/${bush.id}/map`),
          l: () => treeId && void goto(`/bush/${bush.id}/life/${treeId}`),
          u: () => preferences.setUnits(preferences.units === 'metric' ? 'inch' : 'metric')
        }[event.key];
    if (!action) return;
    event.preventDefault();
    action();
  }
</script>

<svelte:window {onkeydown} />
<svelte:head><title>{bush.overview?.bush.name ?? 'Baumkin'}</title></svelte:head>

{#key bush}
  <BushContext {bush}>
    <div class="flex h-dvh flex-col print:block print:h-auto">
      <TopLine onhelp={() => help('here')} />
      {#if where && page.params.tree}
        <div class="flex h-12 shrink-0 items-center border-b border-base-300 md:hidden print:hidden">
          <button class="h-12 w-14" aria-label="Tree before" disabled={index <= 0} onclick={() => step(-1)}
            ><ChevronLeft class="mx-auto" /></button
          >
          <button class="flex h-12 grow items-center justify-center gap-2 font-bold" onclick={() => (findOpen = true)}>
            <Search size={16} /> Tree {tag ?? '…'}
          </button>
          <button
            class="h-12 w-14"
            aria-label="Next tree"
            disabled={index >= bush.walked.length - 1}
            onclick={() => step(1)}><ChevronRight class="mx-auto" /></button
          >
        </div>
      {/if}
      {#if bush.signedOut}<SignInAgain />{:else if bush.problem}<p
          role="alert"
          class="bg-error px-4 py-1.5 text-error-content print:hidden"
        >
          {bush.problem}
        </p>{/if}
      {#if bush.overview?.bush.goneAt}<p role="status" class="bg-warning px-4 py-1.5 text-warning-content print:hidden">
          This bush was given up, and is gone after {until(bush.overview.bush.goneAt)}. Until then it is only looked at.
        </p>{/if}
      <NewVersion />
      <Refused {walking} />
      <div class="flex min-h-0 grow max-md:flex-col print:block">
        <Trail current={station} {treeId} {walking} />
        <main class="min-w-0 grow overflow-y-auto px-4 py-4 md:px-7 md:py-5 print:overflow-visible print:p-0">
          {#if bush.overview}
            {@render children()}
          {:else}
            <Opening />
          {/if}
        </main>
      </div>
      {#if where && bush.rows.length > 0}
        <BeadString current={treeId} {station} onchoose={choose} />
      {/if}
    </div>

    <HelpDialog bind:open={helpOpen} bind:part={helpWith} />
    <FindTree bind:open={findOpen} near={treeId} onchoose={choose} />
  </BushContext>
{/key}
