<script lang="ts">
  import X from '@lucide/svelte/icons/x';
  import type { Snippet } from 'svelte';

  /** A dialog on the browser's top layer: nothing of the page, whatever its stacking, is drawn over it. */
  let {
    open = $bindable(),
    title,
    width = '26rem',
    children
  }: { open: boolean; title: string; width?: string; children: Snippet } = $props();
  const uid = $props.id();
  let dialog: HTMLDialogElement;

  $effect(() => {
    if (open && !dialog.open) {
      dialog.showModal();
      // A dialog with a field is opened to type: the field gets the focus.
      dialog.querySelector('input')?.focus();
    }
    if (!open && dialog.open) dialog.close();
  });
</script>

<!-- a click on the dialog itself is one outside its content: on the ground behind it; Escape closes by the browser -->
<dialog
  bind:this={dialog}
  aria-labelledby={uid}
  class="m-auto max-h-[90dvh] w-[94vw] overflow-y-auto rounded-md bg-base-100 p-0 text-base-content shadow-xl backdrop:bg-black/45 print:hidden"
  style:max-width={width}
  onclose={() => (open = false)}
  onclick={(event) => event.target === dialog && dialog.close()}
>
  {#if open}
    <header class="sticky top-0 flex items-center gap-3 bg-base-100 px-5 pt-4 pb-2 md:px-6">
      <h2 id={uid} class="grow text-xl font-semibold">{title}</h2>
      <button
        class="-mr-2 grid h-9 w-9 place-items-center rounded hover:bg-base-200"
        aria-label="Close"
        onclick={() => (open = false)}><X size={18} /></button
      >
    </header>
    <div class="px-5 pb-5 md:px-6 md:pb-6">{@render children()}</div>
  {/if}
</dialog>
