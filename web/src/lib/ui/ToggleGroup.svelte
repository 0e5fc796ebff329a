<script lang="ts" generics="Id extends string">
  /** One of a few, all in sight: words in a row of which the chosen one is underlined, or a box for each. */
  interface Props {
    /** what is chosen here, for those who do not see it */
    label: string;
    options: readonly {
      readonly id: Id;
      readonly label: string;
      readonly count?: number;
      readonly disabled?: boolean;
    }[];
    value: Id | null | undefined;
    onchange?: (id: Id) => void;
    look?: 'words' | 'boxes';
  }
  let { label, options, value = $bindable(), onchange, look = 'words' }: Props = $props();

  function choose(id: Id): void {
    value = id;
    onchange?.(id);
  }
  const LOOKS = {
    words: [
      'border-b-[3px] px-2 py-1 max-md:min-h-11',
      'border-base-content font-bold',
      'border-transparent hover:underline'
    ],
    boxes: [
      'min-h-11 border border-l-0 border-base-content px-2 first:border-l',
      'bg-neutral font-bold text-neutral-content',
      ''
    ]
  } as const;
  const [base, on, off] = $derived(LOOKS[look]);
</script>

<div
  class={look === 'words' ? 'flex flex-wrap gap-x-1' : 'grid auto-cols-fr grid-flow-col'}
  role="group"
  aria-label={label}
>
  {#each options as option (option.id)}
    <button
      type="button"
      class="{base} {value === option.id ? on : off}"
      aria-pressed={value === option.id}
      disabled={option.disabled}
      onclick={() => choose(option.id)}
      >{option.count === undefined ? option.label : `${option.label} `}{#if option.count !== undefined}<span
          class="aside">{option.count}</span
        >{/if}</button
    >
  {/each}
</div>
