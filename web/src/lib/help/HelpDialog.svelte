<script lang="ts">
  import { group } from 'd3-array';

  import { page } from '$app/state';
  import ModalDialog from '$lib/ui/ModalDialog.svelte';
  import ToggleGroup from '$lib/ui/ToggleGroup.svelte';
  import { GLOSSARY } from '$lib/words/glossary.ts';

  import { howTo } from './howTo.ts';
  import { WHATS_NEW } from './whatsNew.ts';

  /** Help where the hand is: how it is done on this page, the words of the trade, the keys, and what came last. */
  type Part = 'here' | 'words' | 'keys' | 'new';
  let { open = $bindable(), part = $bindable('here') }: { open: boolean; part?: Part } = $props();
  const PARTS = [
    { id: 'here', label: 'On this page' },
    { id: 'words', label: 'Words' },
    { id: 'keys', label: 'Keys' },
    { id: 'new', label: 'New' }
  ] as const;
  const here = $derived(howTo(page.url.pathname.split('/').slice(3).join('/')));

  const KEYS: readonly [string, string][] = [
    ['1 – 6', 'go to a station with this tree'],
    ['[ and ]', 'tree before, next tree, in walking order'],
    ['n', 'next tree that waits at this station'],
    ['/', 'find a tree by its tag'],
    ['l', 'everything known of this tree'],
    ['m', 'the map'],
    ['u', 'change between metric and inch'],
    ['a, b, c …', 'on Identify: choose a look-card; 0 can’t tell, v compare, s save'],
    ['arrows', 'on a trunk: aim, or move the tape; with Shift in larger steps'],
    ['?', 'this page']
  ];
  const news = [...group(WHATS_NEW, ({ on }) => on)];
  const WORDS = Object.values(GLOSSARY).toSorted((a, b) => a[0].localeCompare(b[0]));
  let sought = $state('');
  const plain = (text: string) => text.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase();
  /** words whose name is sought come before those in whose meaning it stands */
  const found = $derived.by(() => {
    const want = plain(sought.trim());
    const named = WORDS.filter(([word]) => plain(word).includes(want));
    return [...named, ...WORDS.filter((each) => !named.includes(each) && plain(each[1]).includes(want))];
  });
</script>

<ModalDialog bind:open title="Help" width="44rem">
  <ToggleGroup label="Help with" options={PARTS} bind:value={part} />
  <div class="mt-4 {part === 'words' ? 'min-h-[50vh]' : ''}">
    {#if part === 'here'}
      <div class="mx-auto aspect-[12/5] max-w-lg">
        {#await import('./Drawn.svelte') then { default: Drawn }}<Drawn id={here.drawn} />{/await}
      </div>
      <ol class="mt-3 flex flex-col gap-2 text-lg {here.steps.length > 1 ? 'list-decimal pl-6' : ''}">
        {#each here.steps as step, i (i)}<li>{step}</li>{/each}
      </ol>
      <p class="aside mt-4">
        A word with dots under it explains itself where it stands. Every figure tells what it rests on.
      </p>
    {:else if part === 'words'}
      <label class="flex flex-col gap-1"
        >Find a word
        <input class="input w-full" bind:value={sought} placeholder="sapwood, dieback, run …" />
      </label>
      <dl class="mt-4 flex flex-col gap-2" data-testid="words">
        {#each found as [word, meaning] (word)}
          <div>
            <dt class="inline font-bold">{word}:</dt>
            <dd class="inline">{meaning}</dd>
          </div>
        {:else}
          <div>
            <dt class="sr-only">{sought}</dt>
            <dd>No word of the trade here holds “{sought.trim()}”.</dd>
          </div>
        {/each}
      </dl>
    {:else if part === 'keys'}
      <p class="aside mb-2">They work wherever you are not typing.</p>
      <dl class="grid grid-cols-[auto_1fr] content-start gap-x-4 gap-y-1.5">
        {#each KEYS as [key, what] (key)}
          <dt class="font-bold whitespace-nowrap">{key}</dt>
          <dd>{what}</dd>
        {/each}
      </dl>
    {:else}
      {#each news as [on, all] (on)}
        <h3 class="mt-2 font-semibold">{on}</h3>
        <ul class="mt-1 flex list-disc flex-col gap-1.5 pl-5">
          {#each all as { says } (says)}<li>{says}</li>{/each}
        </ul>
      {/each}
    {/if}
  </div>
</ModalDialog>
