<script lang="ts">
  import { onMount } from 'svelte';
  import { toast } from 'svelte-sonner';

  import { api, asked } from '$lib/client/api.ts';
  import type { ApiPaths } from '$lib/server/contract.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { broughtWords } from '$lib/labels/importing.ts';
  import ModalDialog from '$lib/ui/ModalDialog.svelte';

  /** What files brought in: a wrong one is taken back whole, but for what somebody worked on since. */
  type Brought = ApiPaths['/bushes/{bush}/imports']['get']['gives']['imports'][number];
  /** counts up whenever a file came in */
  const { came, ongone }: { came: number; /** something that it brought is gone again */ ongone: () => void } =
    $props();
  const bush = useBush();
  let imports = $state.raw<readonly Brought[]>([]);
  let problem = $state('');
  let busy = $state(false);
  let meant = $state.raw<Brought | null>(null);
  let open = $state(false);
  const SHOWN = 8;

  const here = { path: { bush: bush.id } };
  async function look(): Promise<void> {
    const answer = await asked(api.GET('/bushes/{bush}/imports', { params: here }));
    if (answer.problem === null) imports = answer.data.imports;
  }
  onMount(look);
  $effect(() => {
    if (came > 0) void look();
  });

  async function takeBack(): Promise<void> {
    const { id } = meant!;
    open = false;
    busy = true;
    const answer = await asked(
      api.DELETE('/bushes/{bush}/imports/{import}', { params: { path: { bush: bush.id, import: id } } }),
      'It could not be taken back; nothing was changed.'
    );
    busy = false;
    problem = answer.problem ?? '';
    if (answer.problem !== null) return;
    const { records, trees, treesThatStay } = answer.data;
    toast.success(
      `Taken back: ${counted(records, 'record')}, ${counted(trees, 'tree')}.${treesThatStay > 0 ? ` ${counted(treesThatStay, 'tree keeps', 'trees keep')} what came, for something was written since.` : ''}`
    );
    await bush.refresh();
    ongone();
    await look();
  }
</script>

{#if imports.length > 0}
  <section class="mt-6" aria-labelledby="brought" data-testid="brought">
    <h3 id="brought" class="text-base">What files brought in</h3>
    <ul>
      {#each imports.slice(0, SHOWN) as each (each.id)}
        <li class="flex flex-wrap items-baseline gap-x-3 border-b border-base-300/60 py-1">
          <span class="grow {each.takenBack ? 'line-through opacity-80' : ''}"
            ><b>{each.name || 'a file'}</b>: {broughtWords(each.counts)}
            <span class="aside">{each.at.slice(0, 10)}, {each.by}</span></span
          >
          {#if each.takenBack}<span class="aside">taken back</span>
          {:else}<button
              class="min-h-9 link text-sm"
              disabled={busy}
              onclick={() => {
                meant = each;
                open = true;
              }}>Take it back …</button
            >{/if}
        </li>
      {/each}
    </ul>
    {#if problem}<p role="alert" class="font-semibold text-error">{problem}</p>{/if}
  </section>
{/if}

<ModalDialog bind:open title="Take this import back?">
  {#if meant}
    <p class="text-lg">
      {meant.name || 'A file'}, {meant.at.slice(0, 10)}: {broughtWords(meant.counts)}. Trees on which anything was
      written since keep it all. Each withdrawal stays in the book under your name.
    </p>
    <div class="mt-4 flex flex-wrap gap-2">
      <button class="btn btn-primary" onclick={takeBack}>Take it back</button>
      <button class="btn" onclick={() => (open = false)}>Leave it</button>
    </div>
  {/if}
</ModalDialog>
