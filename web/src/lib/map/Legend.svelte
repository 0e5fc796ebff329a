<script lang="ts">
  import type { TreeRow } from '@baumkin/core/records';

  import type { Question } from './questions.ts';

  /** The question that is asked of all trees, and how many give which answer; each answer can be taken as a choice. */
  let {
    questions,
    asked = $bindable(),
    rows,
    onchoose
  }: {
    questions: readonly Question[];
    asked: string;
    rows: readonly TreeRow[];
    onchoose?: (ids: string[]) => void;
  } = $props();
  const question = $derived(questions.find((q) => q.id === asked)!);
  const byAnswer = $derived.by(() => {
    const lists = question.answers.map((): string[] => []);
    for (const row of rows) {
      const answer = question.answer(row);
      if (answer !== null) lists[answer]!.push(row.id);
    }
    return lists;
  });
</script>

<div class="flex flex-col gap-1.5">
  <select class="select w-full font-semibold" aria-label="What is asked of the trees" bind:value={asked}>
    {#each questions as q (q.id)}<option value={q.id}>{q.label}</option>{/each}
  </select>
  <ul class="flex flex-wrap gap-x-4 gap-y-0.5 text-sm">
    {#each question.answers as answer, i (answer.label)}
      {@const ids = byAnswer[i]!}
      <li>
        <svelte:element
          this={onchoose ? 'button' : 'span'}
          class="flex items-center gap-1.5 py-0.5 {onchoose ? 'hover:underline' : ''}"
          title={onchoose ? 'Choose these' : undefined}
          onclick={onchoose ? () => onchoose(ids) : undefined}
          role={onchoose ? 'button' : undefined}
        >
          <svg width="16" height="16" aria-hidden="true"
            ><circle
              cx="8"
              cy="8"
              r="6.5"
              style:fill="var({answer.variable})"
              style:stroke="var({answer.variable})"
              fill-opacity={answer.fill}
              stroke-width="1.4"
            /></svg
          >{answer.label} <b>{ids.length}</b>
        </svelte:element>
      </li>
    {/each}
  </ul>
</div>
