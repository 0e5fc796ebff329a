<script lang="ts">
  import { group } from 'd3-array';
  import { onMount } from 'svelte';

  import { api, asked } from '$lib/client/api.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { LOG_KINDS, type LogKind } from '$lib/labels/log.ts';
  import type { AnswerOf } from '$lib/server/contract.ts';

  /** Who changed what all advice goes by, and when? Work on trees stands in their lives; all else stands here. */
  type Entry = AnswerOf<'Log'>['entries'][number];
  const bush = useBush();
  let entries = $state.raw<readonly Entry[] | null>(null);
  let more = $state(false);
  let problem = $state('');
  let kind = $state<LogKind | ''>('');

  const day = new Intl.DateTimeFormat('en-GB', { weekday: 'long', day: 'numeric', month: 'long', year: 'numeric' });
  const time = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' });
  const days = $derived([...group(entries ?? [], ({ at }) => day.format(new Date(at)))]);

  async function look(before: number | null): Promise<void> {
    const of = kind;
    const query = { ...(of ? { kind: of } : {}), ...(before ? { before: String(before) } : {}) };
    const answer = await asked(
      api.GET('/bushes/{bush}/log', {
        params: { path: { bush: bush.id }, query: query as { kind: string; before: string } }
      })
    );
    // Another sort was chosen meanwhile.
    if (of !== kind) return;
    problem = answer.problem ?? '';
    if (answer.problem !== null) return;
    entries = before === null ? answer.data.entries : [...(entries ?? []), ...answer.data.entries];
    more = answer.data.more;
  }
  onMount(() => look(null));
</script>

<div class="flex flex-wrap items-end justify-between gap-x-6 gap-y-2">
  <h1>Who changed what</h1>
  {#if bush.mayDecide}<a class="link" href="/api/v1/bushes/{bush.id}/log.csv" download>All of it as a table</a>{/if}
</div>
{#if !bush.mayDecide}
  <p class="mt-2">The log of a bush is for its stewards.</p>
{:else}
  <label class="mt-3 flex max-w-72 flex-col gap-1">
    Show
    <select class="select" bind:value={kind} onchange={() => look(null)}>
      <option value="">everything</option>
      {#each Object.entries(LOG_KINDS) as [id, name] (id)}<option value={id}>{name}</option>{/each}
    </select>
  </label>
  {#if problem}<p role="alert" class="mt-2 font-semibold text-error">{problem}</p>{/if}
  <div class="mt-4 max-w-3xl" data-testid="log">
    {#each days as [name, ofDay] (name)}
      <h2 class="mt-5 text-base font-semibold">{name}</h2>
      <ul>
        {#each ofDay as entry (entry.id)}
          <li class="grid grid-cols-[3.5rem_minmax(0,1fr)] gap-x-3 border-b border-base-300 py-1.5">
            <time class="aside tabular-nums" datetime={entry.at}>{time.format(new Date(entry.at))}</time>
            <span class="break-words"><b class="font-semibold">{entry.by}</b> {entry.says}</span>
          </li>
        {/each}
      </ul>
    {:else}
      {#if entries === null && !problem}<p class="aside">Looking …</p>{:else if !problem}<p>
          {kind
            ? 'Nothing of this sort was changed.'
            : 'Nothing was changed yet. Settings, people, files and keys are told here.'}
        </p>{/if}
    {/each}
    {#if more}<button class="btn mt-4" onclick={() => look(entries?.at(-1)?.id ?? null)}>Older entries</button>{/if}
  </div>
{/if}
