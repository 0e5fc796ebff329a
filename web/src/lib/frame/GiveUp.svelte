<script lang="ts">
  import { enhance } from '$app/forms';

  /** A bush is given up with a delay: its name is asked for, and until it is gone it can be taken back. */
  const { bush }: { bush: { readonly id: string; readonly name: string; readonly goneAt: Date | null } } = $props();
  let asking = $state(false);
  const day = (until: Date) => until.toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' });
</script>

<form
  method="POST"
  action={bush.goneAt ? '?/takeBack' : '?/giveUp'}
  class="mt-1 flex flex-wrap items-center gap-x-3 gap-y-1 pl-4"
  use:enhance={() =>
    async ({ result, update }) => {
      // What she typed stays where it was not taken.
      await update({ reset: result.type === 'redirect' });
      if (result.type === 'redirect') asking = false;
    }}
>
  <input type="hidden" name="bush" value={bush.id} />
  {#if bush.goneAt}
    <span class="border-l-4 border-warning pl-3"
      >Given up. Until {day(bush.goneAt)} everybody can look and nothing is written; then all of it is gone.</span
    >
    <button class="btn btn-sm">Take it back</button>
  {:else if asking}
    <div class="flex flex-col gap-2 border-l-4 border-error py-1 pl-3">
      <p>
        All trees, and all that anybody wrote of them, go in 30 days. Until then everybody can look, and you can take it
        back. Take its archive out first, under Files and programs.
      </p>
      <label class="flex flex-col gap-1">
        Write its name, {bush.name}
        <input class="input w-full max-w-80" name="called" required autocomplete="off" />
      </label>
      <p class="flex gap-2">
        <button class="btn btn-error btn-sm">Give it up</button>
        <button type="button" class="btn btn-ghost btn-sm" onclick={() => (asking = false)}>Keep it</button>
      </p>
    </div>
  {:else}
    <button type="button" class="min-h-9 link text-sm" onclick={() => (asking = true)} aria-label="Give {bush.name} up"
      >Give it up</button
    >
  {/if}
</form>
