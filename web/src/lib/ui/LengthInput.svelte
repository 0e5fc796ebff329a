<script lang="ts">
  import { parseLength, parseTrunkLength, UnreadableLength, type LengthUse } from '@baumkin/core/units';

  import { onDestroy } from 'svelte';

  import { preferences } from '$lib/client/preferences.svelte.ts';

  /** A length kept in mm and typed in any unit. What nobody types stays as it was, to the hair: what is shown is rounded. */
  let {
    valueMm = $bindable(),
    problem = $bindable(null),
    use,
    label,
    mayBeNothing = false,
    class: look = 'input grow'
  }: {
    valueMm: number;
    /** why what was typed cannot be read */
    problem?: string | null;
    use: LengthUse;
    /** its name, where no label stands round it */
    label?: string;
    /** is nought a length here? */
    mayBeNothing?: boolean;
    class?: string;
  } = $props();

  let typed = $state<string | null>(null);

  // A form that waits for its fields to be readable must not wait for one that was taken away.
  onDestroy(() => (problem = null));

  function read(text: string): void {
    typed = text;
    try {
      const unit = preferences.trunkUnit;
      if (!mayBeNothing) valueMm = parseTrunkLength(text, unit).valueMm;
      else valueMm = text.trim() === '' ? 0 : parseLength(text, unit).valueMm;
      problem = null;
    } catch (error) {
      if (!(error instanceof UnreadableLength)) throw error;
      problem = error.message;
    }
  }
</script>

<input
  class={look}
  aria-label={label}
  aria-invalid={problem !== null}
  value={typed ?? preferences.length(valueMm, use)}
  oninput={(event) => read(event.currentTarget.value)}
  onblur={() => {
    if (problem === null) typed = null;
  }}
/>
