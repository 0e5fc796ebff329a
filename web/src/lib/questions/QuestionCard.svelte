<script lang="ts">
  import { ANSWERS } from '@baumkin/core/bush';
  import { drillForbidden, effectiveRecords, type Answer, type Question, type Taphole } from '@baumkin/core/records';
  import { compassPoint } from '@baumkin/core/math';
  import { toast } from 'svelte-sonner';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { undoable } from '$lib/client/saved.ts';
  import { addressee, ANSWER_LABELS, ANSWERED, questionWords } from '$lib/labels/questions.ts';
  import { forbiddenWords, spoilsSap } from '$lib/labels/permission.ts';
  import { SHAVINGS_SEEN } from '$lib/labels/placement.ts';
  import { describe } from '$lib/labels/records.ts';

  import { giveAnswer, mayAnswer, proposed } from './answering.ts';

  /** One question: what each of them wrote, and the few things that may be so. */
  const { question }: { question: Question } = $props();
  const bush = useBush();
  $effect(() => void bush.loadTree(question.ofTreeId));
  const records = $derived(bush.recordsOf(question.ofTreeId));
  const tree = $derived(bush.stateFrom(records));
  const holes = $derived(
    effectiveRecords(records).filter(
      (record): record is Taphole => record.kind === 'taphole' && question.tapholeIds.includes(record.id)
    )
  );
  const said = $derived.by(() => {
    if (question.proposal === null) return null;
    try {
      return describe({ ...question, ...proposed(question) } as never, {
        length: (...to) => preferences.length(...to),
        paintOf: (season) => bush.paintOf(season)
      });
    } catch {
      return null;
    }
  });
  /** why nothing is to be drilled there; null where nothing says so any more */
  const why = $derived.by(() => {
    const row = question.about === 'resting' ? bush.byId.get(question.ofTreeId) : undefined;
    if (!row) return null;
    const forbidden = drillForbidden(row, bush.standOf(row), bush.today);
    if (forbidden)
      return `${forbiddenWords(forbidden)}${spoilsSap(forbidden) ? ' What ran there is no food: it is poured away.' : ''}`;
    const { decision } = tree;
    if (decision?.taps !== 0) return null;
    return `${bush.authorOf(decision)} decided that it rests${decision.reason ? `: ${decision.reason}` : ''}.`;
  });
  const answers = $derived(
    ANSWERS[question.about].filter(
      (says) => mayAnswer(bush, question, says, holes) && (says !== 'taken' || said !== null)
    )
  );

  let busy = $state(false);
  async function give(says: Answer['says']): Promise<void> {
    if (busy) return;
    busy = true;
    try {
      const { tag } = question;
      const undo = await giveAnswer(bush, question, { says, holes, shavings: tree.shavings });
      undoable(`Tree ${tag}: ${ANSWERED[says]}.`, undo);
    } catch (error) {
      console.error(error);
      toast.error('That could not be written down; the question stands.');
    } finally {
      busy = false;
    }
  }
</script>

<article class="flex flex-col gap-3 border-l-[6px] border-warning py-1 pl-4" data-testid="question">
  <header class="flex flex-wrap items-baseline gap-x-4">
    <h2 class="text-3xl tabular-nums">
      {#if bush.byId.has(question.ofTreeId)}<a
          class="inline-flex min-h-12 link items-center"
          href="/bush/{bush.id}/place/{question.ofTreeId}">{question.tag}</a
        >{:else}{question.tag}{/if}
    </h2>
    <p class="text-base">
      {addressee(question, holes.at(-1) ?? null, (record) => bush.authorOf(record))}, since {question.on}
    </p>
  </header>
  <p class="max-w-prose text-lg leading-snug font-semibold">{questionWords(question, said)}</p>
  {#if why}<p class="caution max-w-prose text-base" data-testid="why">{why}</p>{/if}
  {#if question.note}<p class="max-w-prose text-base">“{question.note}”</p>{/if}
  {#if holes.length > 0}
    <ul class="text-base">
      {#each holes as hole (hole.id)}
        {@const seen = tree.shavings.get(hole.id)}
        <li>
          <b>{bush.authorOf(hole)}</b>, {hole.on}: {compassPoint(hole.bearingDeg)} side, {Math.round(hole.bearingDeg)}°, {preferences.length(
            hole.heightMm,
            'hand'
          )} up{seen ? `; shavings ${SHAVINGS_SEEN[seen.seen]}` : ''}
        </li>
      {/each}
    </ul>
  {/if}
  {#if answers.length > 0}
    <div class="grid gap-2 sm:grid-cols-3">
      {#each answers as says, i (says)}
        {@const [label, meaning] = ANSWER_LABELS[says]}
        <button
          class="min-h-16 border-2 px-3 py-1 text-left text-lg leading-tight font-bold {i === 0
            ? 'border-primary bg-primary text-primary-content'
            : 'border-current'}"
          disabled={busy}
          onclick={() => give(says)}>{label}<span class="block text-base font-normal">{meaning}</span></button
        >
      {/each}
    </div>
  {:else if bush.mayRecord}<p class="text-base">Whoever wrote it, or a steward, answers.</p>{/if}
</article>
