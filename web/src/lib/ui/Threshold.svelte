<script lang="ts">
  import type { Snippet } from 'svelte';

  /** The plain page before one is in a bush: signing in, making an account, choosing a bush. */
  const { title, children }: { title: string; children: Snippet } = $props();
</script>

<svelte:head><title>{title} · Baumkin</title></svelte:head>

<div class="grid min-h-screen md:grid-cols-[minmax(0,22rem)_1fr]">
  <div class="flex flex-col justify-between gap-6 bg-neutral p-6 text-neutral-content md:p-10">
    <div class="flex items-center gap-3">
      <img src="/icon.svg" alt="" class="h-11 w-11" />
      <span class="font-slab text-2xl font-bold">Baumkin</span>
    </div>
    <p class="font-slab text-lg leading-snug max-md:hidden">
      Which trees are maples, how many tapholes each can bear, where the next one finds clear wood, and which neighbours
      stand in its light. And why.
    </p>
    <p class="text-sm opacity-85 max-md:hidden">For the steward of a sugarbush.</p>
  </div>
  <main class="flex flex-col justify-center gap-5 p-6 md:max-w-xl md:p-14">
    <h1>{title}</h1>
    {@render children()}
  </main>
</div>
