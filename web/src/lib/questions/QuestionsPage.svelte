<script lang="ts">
  import type { Answer } from '@baumkin/core/records';

  import EmptyState from '$lib/ui/EmptyState.svelte';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { ANSWERED } from '$lib/labels/questions.ts';
  import { counted } from '$lib/labels/counted.ts';

  import QuestionCard from './QuestionCard.svelte';

  /** Where what people wrote does not go together, or waits for a steward: what is so is said, and the book follows. */
  const bush = useBush();
  const open = $derived(bush.questions.filter(({ answer }) => answer === null));
  /** Answers that are of any interest still. */
  const LAST = 12;
  /** After these nothing was crossed out: the question is as it was. */
  const LEAVES_HOLES: readonly Answer['says'][] = ['stays', 'pulled', 'left'];
  const answered = $derived(
    bush.questions
      .flatMap(({ question, answer }) => (answer ? { question, answer } : []))
      .sort((a, b) => b.answer.recordedAt.localeCompare(a.answer.recordedAt))
      .slice(0, LAST)
  );
</script>

<svelte:head><title>Questions</title></svelte:head>
{#if open.length === 0}
  <EmptyState title="Questions"
    >No question is open. One is asked where two people wrote of one tree what does not go together, or where crew
    proposes what a steward decides.</EmptyState
  >
{:else}
  <h1>{counted(open.length, 'question')}</h1>
  <div class="mt-5 flex max-w-3xl flex-col gap-8">
    {#each open as { question } (question.id)}<QuestionCard {question} />{/each}
  </div>
{/if}
{#if answered.length > 0}
  <section class="mt-8 max-w-3xl" aria-labelledby="answered">
    <h2 id="answered">Answered</h2>
    <ul class="mt-1 flex flex-col">
      {#each answered as { question, answer } (question.id)}
        <li class="flex min-h-12 flex-wrap items-center justify-between gap-x-4 border-t border-base-300 py-1">
          <span
            ><b>{question.tag}</b>: {ANSWERED[answer.says]}
            <span class="aside">· {bush.authorOf(answer)}, {answer.on}</span></span
          >
          {#if LEAVES_HOLES.includes(answer.says) && bush.mayTakeBack(answer)}<button
              class="btn min-h-12 btn-ghost"
              onclick={() => bush.withdraw(answer)}>Ask again<span class="sr-only"> about {question.tag}</span></button
            >{/if}
        </li>
      {/each}
    </ul>
  </section>
{/if}
