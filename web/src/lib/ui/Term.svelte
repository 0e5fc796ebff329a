<script lang="ts">
  import { tick, type Snippet } from 'svelte';

  import { GLOSSARY, type Term } from '$lib/words/glossary.ts';

  /** A term of the trade; hovered over, focused or tapped it says what it means, above everything else. */
  const { of, children }: { of: Term; children?: Snippet } = $props();
  const uid = $props.id();
  const WIDEST_PX = 304;
  let shown = $state(false);
  let button: HTMLButtonElement;
  let box = $state<HTMLSpanElement>();
  let at = $state({ left: 0, top: 0 });

  async function show(): Promise<void> {
    if (shown) return;
    shown = true;
    await tick();
    if (!box) return;
    box.showPopover();
    const place = button.getBoundingClientRect();
    const below = place.bottom + 6;
    at = {
      left: Math.max(8, Math.min(place.left, window.innerWidth - WIDEST_PX - 8)),
      top: below + box.offsetHeight > window.innerHeight ? Math.max(8, place.top - box.offsetHeight - 6) : below
    };
  }
  const hide = () => (shown = false);
</script>

<button
  type="button"
  class="cursor-help text-left underline decoration-dotted underline-offset-3 print:no-underline"
  aria-describedby={shown ? uid : undefined}
  bind:this={button}
  onclick={(event) => {
    event.preventDefault();
    void show();
  }}
  onpointerenter={(event) => event.pointerType === 'mouse' && void show()}
  onpointerleave={(event) => event.pointerType === 'mouse' && hide()}
  onfocus={(event) => event.currentTarget.matches(':focus-visible') && void show()}
  onkeydown={(event) => event.key === 'Escape' && hide()}
  onblur={hide}
  >{#if children}{@render children()}{:else}{GLOSSARY[of][0]}{/if}</button
>{#if shown}<span
    id={uid}
    popover="manual"
    role="tooltip"
    bind:this={box}
    class="fixed m-0 w-max max-w-[min(19rem,calc(100vw-1rem))] rounded border border-base-content/40 bg-base-100 px-3 py-2 text-left text-sm font-normal whitespace-normal text-base-content normal-case shadow-md"
    style:left="{at.left}px"
    style:top="{at.top}px">{GLOSSARY[of][1]}</span
  >{/if}
