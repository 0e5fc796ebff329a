<script lang="ts">
  import { FIRST_STEPS, firstStepOf, type FirstStep } from '@baumkin/core/bush';
  import { knownMaple, type TreeRow } from '@baumkin/core/records';

  import { useBush } from '$lib/client/bush.svelte.ts';

  /** What comes next for this tree? Shown in a bush of a few trees, where no walk and no list says it. */
  const { row, station }: { row: TreeRow; station: string } = $props();
  const bush = useBush();
  const ASKS: Readonly<Record<FirstStep, string>> = {
    identify: 'Is it a maple?',
    measure: 'How thick is it?',
    count: 'How many holes?',
    place: 'Where to drill?'
  };
  const stepOf = (of: TreeRow) =>
    firstStepOf(of, { stand: bush.standOf(of), today: bush.today, settings: bush.overview!.bush.settings });
  const step = $derived(stepOf(row));
  /** how far the tree has come; past all where nothing is left to ask */
  const reached = $derived(step === 'left' || step === 'done' ? FIRST_STEPS.length : FIRST_STEPS.indexOf(step));
  /** the first of the others that still waits for a step */
  const other = $derived(
    bush.rows.find((each) => each.id !== row.id && !['left', 'done'].includes(stepOf(each))) ?? null
  );
  const href = (to: string, id = row.id) => `/bush/${bush.id}/${to}/${id}`;
</script>

<nav
  class="mb-4 flex flex-wrap items-center gap-x-5 gap-y-2 border-y border-base-300 py-2 print:hidden"
  aria-label="Steps"
>
  {#if step === 'left'}
    <p>{knownMaple(row) === false ? 'This is not a maple: leave it.' : 'It is not to be tapped: leave it.'}</p>
  {:else}
    <ol class="flex flex-wrap items-center gap-x-5 gap-y-2">
      {#each FIRST_STEPS as each, i (each)}
        <li class="flex items-center">
          {#if i === reached && each !== station}
            <a class="btn btn-primary btn-sm max-md:min-h-12" href={href(each)}>Next: {ASKS[each]}</a>
          {:else}
            <a
              class="flex min-h-9 items-center gap-1.5 {each === station ? 'font-bold' : 'link-hover'}"
              href={href(each)}
              aria-current={each === station ? 'step' : undefined}
              ><span aria-hidden="true">{i < reached ? '✓' : `${i + 1}`}</span>
              {ASKS[each]}{#if i < reached}<span class="sr-only"> Done.</span>{/if}</a
            >
          {/if}
        </li>
      {/each}
    </ol>
  {/if}
  {#if reached === FIRST_STEPS.length}
    {#if other}<a class="btn btn-primary btn-sm max-md:min-h-12" href={href(stepOf(other), other.id)}
        >Next: tree {other.tag}</a
      >{:else}<a class="btn btn-sm max-md:min-h-12" href="/bush/{bush.id}">All trees are done for now</a>{/if}
  {/if}
</nav>
