<script lang="ts">
  import { SPECIES } from '@baumkin/core/identify';
  import { RULE_FIELDS, type Rule, type RuleField } from '@baumkin/core/records';
  import X from '@lucide/svelte/icons/x';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';

  /** Rules by which trees are chosen: one line each, all of them together. */
  let { rules = $bindable() }: { rules: Rule[] } = $props();
  const bush = useBush();

  const FIELDS: Record<RuleField, string> = {
    kind: 'it is',
    species: 'the species',
    stand: 'the stand',
    diameter: 'the diameter',
    ring: 'the yearly ring',
    readingAge: 'the last reading, years ago',
    taps: 'taps decided',
    dieback: 'dieback, %',
    crownClass: 'the crown',
    questions: 'open questions',
    mark: 'the mark',
    quality: 'the place'
  };
  const metric = $derived(preferences.units === 'metric');
  const unit = $derived<Partial<Record<RuleField, { label: string; mm: number }>>>({
    diameter: metric ? { label: 'cm', mm: 10 } : { label: 'in', mm: 25.4 },
    ring: metric ? { label: 'mm', mm: 1 } : { label: 'in', mm: 25.4 }
  });
  const START: Partial<Record<RuleField, number>> = {
    diameter: 300,
    ring: 1.2,
    readingAge: 5,
    taps: 1,
    dieback: 20,
    questions: 1
  };

  const choices = (field: RuleField): readonly (readonly [string, string])[] =>
    (
      ({
        kind: [
          ['maple', 'a maple'],
          ['unsettled', 'not settled'],
          ['other', 'another tree']
        ],
        species: SPECIES.map((s) => [s.id, s.name] as const),
        stand: [...(bush.overview?.stands ?? []).map((s) => [s.id, s.name] as const), ['none', 'none'] as const],
        quality: [
          ['surveyed', 'surveyed'],
          ['paced', 'paced'],
          ['phone', 'by phone'],
          ['none', 'not known']
        ],
        mark: [
          ['take', 'to take'],
          ['keep', 'to keep'],
          ['none', 'none']
        ],
        crownClass: ['dominant', 'codominant', 'intermediate', 'suppressed', 'open'].map((c) => [c, c] as const)
      }) as Partial<Record<RuleField, readonly (readonly [string, string])[]>>
    )[field] ?? [];

  function fresh(field: RuleField): Rule {
    return RULE_FIELDS[field] === 'choice'
      ? { field, test: 'is', value: choices(field)[0]?.[0] ?? 'none' }
      : { field, test: 'atLeast', value: START[field] ?? 0 };
  }
  const change = (i: number, rule: Rule) => (rules = rules.map((old, k) => (k === i ? rule : old)));
</script>

<div class="flex flex-col gap-1.5">
  {#each rules as rule, i (i)}
    {@const numeric = RULE_FIELDS[rule.field] === 'number'}
    {@const measure = unit[rule.field]}
    <div class="flex items-center gap-1" role="group" aria-label="Rule {i + 1}">
      <select
        class="select min-w-0 grow select-sm"
        aria-label="What"
        value={rule.field}
        onchange={(event) => change(i, fresh(event.currentTarget.value as RuleField))}
      >
        {#each Object.entries(FIELDS) as [id, label] (id)}<option value={id}>{label}</option>{/each}
      </select>
      <select
        class="select w-20 select-sm"
        aria-label="How"
        value={rule.test}
        onchange={(event) => change(i, { ...rule, test: event.currentTarget.value as Rule['test'] })}
      >
        {#if numeric}<option value="atLeast">from</option><option value="atMost">up to</option><option value="is"
            >is</option
          >{:else}<option value="is">is</option><option value="isNot">is not</option>{/if}
      </select>
      {#if numeric}
        <input
          class="input w-20 input-sm"
          type="number"
          step="any"
          aria-label="Value{measure ? `, ${measure.label}` : ''}"
          value={Number((Number(rule.value) / (measure?.mm ?? 1)).toFixed(2))}
          oninput={(event) => change(i, { ...rule, value: event.currentTarget.valueAsNumber * (measure?.mm ?? 1) })}
        />{#if measure}<span class="text-sm">{measure.label}</span>{/if}
      {:else}
        <select
          class="select w-28 select-sm"
          aria-label="Value"
          value={rule.value}
          onchange={(event) => change(i, { ...rule, value: event.currentTarget.value })}
        >
          {#each choices(rule.field) as [id, label] (id)}<option value={id}>{label}</option>{/each}
        </select>
      {/if}
      <button
        class="grid h-8 w-8 shrink-0 place-items-center hover:bg-base-200"
        aria-label="Take rule {i + 1} away"
        onclick={() => (rules = rules.filter((_, k) => k !== i))}><X size={15} /></button
      >
    </div>
  {/each}
  <button
    class="link self-start text-sm"
    onclick={() => (rules = [...rules, fresh(rules.length === 0 ? 'diameter' : 'readingAge')])}
    >{rules.length === 0 ? 'Choose by a rule' : 'And a rule more'}</button
  >
</div>
