<script lang="ts">
  import { Dialog } from 'bits-ui';

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
  const WORDS: readonly [string, string][] = [
    ['DBH', 'diameter at breast height, outside the bark: 1.30 m above the ground, 4.5 ft in US practice'],
    ['girth', 'the way round the trunk; divided by pi it is the diameter'],
    ['taphole', 'the hole a spout sits in'],
    [
      'non-conductive wood',
      'the stained column that a tree walls off behind an old hole; it never gives sap again, and new rings bury it'
    ],
    ['basal area', 'the cross-section of the trunks at breast height; the measure of how much a thinning takes'],
    ['crop tree', 'a tree the stand is managed for'],
    ['crown release', 'taking what touches a crop tree’s crown, so that it has light from three or four sides']
  ];
</script>

<Dialog.Root bind:open>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/45" />
    <Dialog.Content
      class="fixed top-1/2 left-1/2 z-50 max-h-[90vh] w-[min(44rem,94vw)] -translate-x-1/2 -translate-y-1/2 overflow-y-auto rounded-md bg-base-100 p-6 text-base-content shadow-xl"
    >
      <Dialog.Title class="font-slab text-xl font-semibold">Keys and words</Dialog.Title>
      <Dialog.Description class="aside mb-4">Keys work wherever you are not typing.</Dialog.Description>
      <div class="grid gap-6 md:grid-cols-[1fr_1.2fr]">
        <dl class="grid grid-cols-[auto_1fr] content-start gap-x-4 gap-y-1.5">
          {#each KEYS as [key, what] (key)}
            <dt class="font-bold whitespace-nowrap">{key}</dt>
            <dd>{what}</dd>
          {/each}
        </dl>
        <dl class="flex flex-col gap-2">
          {#each WORDS as [word, meaning] (word)}
            <div>
              <dt class="inline font-bold">{word}:</dt>
              <dd class="inline">{meaning}</dd>
            </div>
          {/each}
        </dl>
      </div>
      <Dialog.Close class="btn mt-5 btn-outline btn-sm">Close</Dialog.Close>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
