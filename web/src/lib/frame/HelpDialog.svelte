<script lang="ts">
  import ModalDialog from '$lib/ui/ModalDialog.svelte';
  import { GLOSSARY } from '$lib/words/glossary.ts';

  let { open = $bindable() }: { open: boolean } = $props();

  const KEYS: readonly [string, string][] = [
    ['1 – 5', 'go to a station with this tree'],
    ['[ and ]', 'tree before, next tree, in walking order'],
    ['n', 'next tree that waits at this station'],
    ['/', 'find a tree by its tag'],
    ['l', 'everything known of this tree'],
    ['m', 'the map'],
    ['u', 'change between metric and inch'],
    ['a, b, c …', 'on Identify: choose a look-card; 0 can’t tell, v compare, s save'],
    ['?', 'this page']
  ];
  const WORDS = Object.values(GLOSSARY).toSorted((a, b) => a[0].localeCompare(b[0]));
</script>

<ModalDialog bind:open title="Keys and words" width="48rem">
  <div class="grid gap-6 md:grid-cols-[1fr_1.3fr]">
    <div class="max-md:order-2">
      <h3 class="mb-2 font-semibold">Keys</h3>
      <p class="aside mb-2">They work wherever you are not typing.</p>
      <dl class="grid grid-cols-[auto_1fr] content-start gap-x-4 gap-y-1.5">
        {#each KEYS as [key, what] (key)}
          <dt class="font-bold whitespace-nowrap">{key}</dt>
          <dd>{what}</dd>
        {/each}
      </dl>
    </div>
    <div>
      <h3 class="mb-2 font-semibold">Words of the trade</h3>
      <dl class="flex flex-col gap-2">
        {#each WORDS as [word, meaning] (word)}
          <div>
            <dt class="inline font-bold">{word}:</dt>
            <dd class="inline">{meaning}</dd>
          </div>
        {/each}
      </dl>
    </div>
  </div>
</ModalDialog>
