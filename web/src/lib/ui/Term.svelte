<script lang="ts">
  import type { Snippet } from 'svelte';

  import { GLOSSARY, type Term } from '$lib/words/glossary.ts';

  /** A term of the trade; hovered over, focused or tapped it says what it means, above everything else. */
  const { of, children }: { of: Term; children?: Snippet } = $props();
  const uid = $props.id();
  let button: HTMLButtonElement;
  let box: HTMLSpanElement;
  let at = $state({ left: 0, top: 0 });

  function show(): void {
    const place = button.getBoundingClientRect();
    const left = Math.max(8, Math.min(place.left, window.innerWidth - 316));
    at = { left, top: place.bottom + 6 };
    if (!box.matches(':popover-open')) box.showPopover();
    const over = place.bottom + 6 + box.offsetHeight - window.innerHeight;
    if (over > 0) at = { left, top: Math.max(8, place.top - box.offsetHeight - 6) };
  }
  function hide(): void {
    if (box.matches(':popover-open')) box.hidePopover();
  }
</script>

<button
  type="button"
  class="cursor-help underline decoration-dotted underline-offset-3"
  aria-describedby={uid}
  bind:this={button}
  onclick={(event) => {
    event.preventDefault();
    show();
  }}
  onpointerenter={(event) => event.pointerType === 'mouse' && show()}
  onpointerleave={(event) => event.pointerType === 'mouse' && hide()}
  onfocus={(event) => event.currentTarget.matches(':focus-visible') && show()}
  onblur={hide}
  >{#if children}{@render children()}{:else}{GLOSSARY[of][0]}{/if}</button
><span
  id={uid}
  popover="manual"
  role="tooltip"
  bind:this={box}
  class="fixed m-0 w-max max-w-[min(19rem,calc(100vw-1rem))] rounded border border-base-content/40 bg-base-100 px-3 py-2 text-left text-sm font-normal whitespace-normal text-base-content normal-case shadow-md"
  style:left="{at.left}px"
  style:top="{at.top}px">{GLOSSARY[of][1]}</span
>
