<script lang="ts">
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
    if (open && !dialog.open) dialog.showModal();
    if (!open && dialog.open) dialog.close();
  });
</script>

<!-- a click on the dialog itself is one outside its content: on the ground behind it; Escape closes by the browser -->
<!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_noninteractive_element_interactions -->
<dialog
  bind:this={dialog}
  aria-labelledby={uid}
  class="m-auto max-h-[90dvh] w-[94vw] overflow-y-auto rounded-md bg-base-100 p-0 text-base-content shadow-xl backdrop:bg-black/45 print:hidden"
  style:max-width={width}
  onclose={() => (open = false)}
  onclick={(event) => event.target === dialog && dialog.close()}
>
  {#if open}
    <div class="p-5 md:p-6">
      <h2 id={uid} class="mb-2 text-xl font-semibold">{title}</h2>
      {@render children()}
    </div>
  {/if}
</dialog>
