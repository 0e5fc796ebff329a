<script lang="ts">
  import type { Taphole } from '@baumkin/core/records';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import ModalDialog from '$lib/ui/ModalDialog.svelte';

  /** Before a hole is written down that may be there already, or where none is to be drilled any more: is it meant? */
  let {
    open = $bindable(),
    same,
    left,
    onwrite
  }: {
    open: boolean;
    /** the hole that is written down at the same spot; null where the doubt is another */
    same: Taphole | null;
    /** why none is left to be drilled, in a sentence */
    left: string;
    onwrite: () => Promise<void>;
  } = $props();
  const bush = useBush();
  const time = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', hour: '2-digit', minute: '2-digit' });
  const writtenBy = (hole: Taphole) =>
    hole.authorId === bush.overview?.member.id ? 'by yourself' : `by ${bush.authorOf(hole)}`;
  async function write(): Promise<void> {
    open = false;
    await onwrite();
  }
</script>

<ModalDialog bind:open title={same ? 'The same hole?' : 'Drilled all the same?'}>
  <p class="text-lg" data-testid="hole-doubt">
    {same
      ? `A hole of this season is written down at this spot, ${writtenBy(same)}, ${time.format(new Date(same.recordedAt))}.`
      : left}
  </p>
  <div class="mt-4 flex flex-col gap-2">
    <button class="btn h-14 text-lg" onclick={() => (open = false)}
      >{same ? 'It is that hole' : 'It was not drilled'}</button
    >
    <button class="btn h-14 text-lg" onclick={write}>{same ? 'It is a second hole' : 'It was drilled'}</button>
  </div>
</ModalDialog>
