<script lang="ts">
  import type { Snippet } from 'svelte';

  /** Said where there is nothing to show: why, and what to do about it. */
  interface Props {
    title?: string;
    children: Snippet;
    /** the one thing to do next, where the words do not hold it */
    next?: { readonly label: string; readonly href: string };
  }
  const { title, children, next }: Props = $props();
</script>

{#if title}<h1>{title}</h1>{/if}
<p class="mt-2 max-w-prose text-lg">{@render children()}</p>
{#if next}<a class="btn mt-4 btn-primary" href={next.href}>{next.label}</a>{/if}
