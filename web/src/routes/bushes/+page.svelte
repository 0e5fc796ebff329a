<script lang="ts">
  import { enhance } from '$app/forms';

  import SignOut from '$lib/frame/SignOut.svelte';
  import Threshold from '$lib/ui/Threshold.svelte';

  const { data, form } = $props();
</script>

<Threshold title={data.bushes.length > 0 ? 'Your bushes' : `Welcome, ${data.displayName}`}>
  {#if data.bushes.length > 0}
    <ul class="flex flex-col gap-2">
      {#each data.bushes as bush (bush.id)}
        <li>
          <a
            class="flex items-baseline justify-between gap-4 border border-base-300 px-4 py-3 hover:border-primary"
            href="/bush/{bush.id}"
          >
            <span class="font-slab text-lg font-semibold">{bush.name}</span>
            <span class="aside">{bush.role}</span>
          </a>
        </li>
      {/each}
    </ul>
  {:else}
    <p>You belong to no bush yet. Make one here, or ask a steward for an invitation to hers.</p>
  {/if}
  <form method="POST" class="flex flex-col gap-3 border-t border-base-300 pt-4" use:enhance>
    <label class="flex flex-col gap-1">
      Name of a new bush
      <input class="input w-full" name="name" required maxlength="80" value={form?.name} />
    </label>
    {#if form?.message}<p role="alert" class="font-semibold text-error">{form.message}</p>{/if}
    <button class="btn self-start {data.bushes.length > 0 ? 'btn-outline' : 'btn-primary'}">Make the bush</button>
  </form>
  <SignOut><button class="btn -ml-3 btn-ghost btn-sm">Sign out</button></SignOut>
</Threshold>
