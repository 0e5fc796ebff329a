<script lang="ts">
  import { enhance } from '$app/forms';

  import Backups from '$lib/frame/Backups.svelte';
  import GiveUp from '$lib/frame/GiveUp.svelte';
  import SignOut from '$lib/frame/SignOut.svelte';
  import { ROLE_SAYS } from '$lib/labels/roles.ts';
  import Threshold from '$lib/ui/Threshold.svelte';

  const { data, form } = $props();
  /** the copy that is about to be thrown away */
  let asking = $state<string | null>(null);
  const hasCopy = $derived(data.bushes.some(({ playUntil }) => playUntil !== null));
  const dayOf = (until: Date) => until.toLocaleDateString('en-GB', { weekday: 'long', day: 'numeric', month: 'long' });
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
            <span class="aside">{bush.playUntil ? 'to play in' : bush.goneAt ? 'given up' : ROLE_SAYS[bush.role]}</span>
          </a>
          {#if bush.hers}<GiveUp {bush} />{/if}
          {#if bush.playUntil}
            <form
              method="POST"
              action="?/throwAway"
              class="flex flex-wrap items-center gap-x-3 pl-4"
              use:enhance={() =>
                async ({ update }) => {
                  await update();
                  asking = null;
                }}
            >
              <input type="hidden" name="bush" value={bush.id} />
              {#if asking === bush.id}
                <span>All that you did in it goes.</span>
                <button class="btn btn-sm">Throw it away</button>
                <button type="button" class="btn btn-ghost btn-sm" onclick={() => (asking = null)}>Leave it</button>
              {:else}
                <span class="aside">Gone by itself on {dayOf(bush.playUntil)}.</span>
                <button type="button" class="min-h-9 link text-sm" onclick={() => (asking = bush.id)}
                  >Throw it away now</button
                >
              {/if}
            </form>
          {/if}
        </li>
      {/each}
    </ul>
  {:else if !data.isGuest}
    <p>You belong to no bush yet. Make one here, or ask a steward for an invitation to hers.</p>
  {/if}
  {#if form?.message}<p role="alert" class="font-semibold text-error">{form.message}</p>{/if}
  {#if data.isGuest}
    <p>You look around as a guest. For trees of your own, sign out and make an account.</p>
  {:else}
    <form method="POST" action="?/make" class="flex flex-col gap-3 border-t border-base-300 pt-4" use:enhance>
      <label class="flex flex-col gap-1">
        Name of a new bush
        <input class="input w-full" name="name" required maxlength="80" value={form?.name} />
      </label>
      <button class="btn self-start {data.bushes.length > 0 ? 'btn-outline' : 'btn-primary'}">Make the bush</button>
    </form>
  {/if}
  {#if data.example !== null && !hasCopy}
    <p><a class="link" href="/look-around">Look around in {data.example}</a>, in a copy of your own to play in.</p>
  {/if}
  {#if data.backups}<Backups {...data.backups} now={data.now} />{/if}
  <p><a class="link" href="/account">Your account</a>: password, and where you are signed in.</p>
  <SignOut><button class="btn -ml-3 btn-ghost btn-sm">Sign out</button></SignOut>
</Threshold>
