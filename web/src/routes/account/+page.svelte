<script lang="ts">
  import { enhance } from '$app/forms';

  import NewPassword from '$lib/frame/NewPassword.svelte';
  import { whenWords } from '$lib/people/heldWords.ts';
  import Threshold from '$lib/ui/Threshold.svelte';

  const { data, form } = $props();
  const others = $derived(data.devices.filter(({ isThis }) => !isThis));
</script>

<Threshold title="Your account">
  <p>{data.name}{data.isGuest ? ', a guest' : `, who signs in as ${data.signInName}`}.</p>
  {#if form && 'message' in form}<p role="alert" class="font-semibold text-error">{form.message}</p>{/if}
  {#if form && 'done' in form}<p role="status" class="border-l-4 border-secondary pl-3">{form.done}</p>{/if}
  <section aria-labelledby="devices">
    <h2 id="devices">Where you are signed in</h2>
    <ul data-testid="devices">
      {#each data.devices as { id, device, since, seenAt, isThis } (id)}
        <li class="flex min-h-11 flex-wrap items-center gap-x-4 border-b border-base-300 py-2">
          <span class="grow">
            <b>{device || 'A device'}</b>{isThis ? ', this one' : ''}
            <span class="aside block"
              >{isThis || !seenAt ? '' : `last used ${whenWords(seenAt.toISOString())}, `}signed in {whenWords(
                since.toISOString()
              )}</span
            >
          </span>
          {#if !isThis}
            <form method="POST" action="?/signOut" use:enhance>
              <input type="hidden" name="device" value={id} />
              <button class="min-h-9 link text-sm">Sign it out</button>
            </form>
          {/if}
        </li>
      {/each}
    </ul>
    {#if others.length > 1}
      <form method="POST" action="?/signOutOthers" class="mt-3" use:enhance>
        <button class="btn btn-outline btn-sm">Sign out everywhere else</button>
      </form>
    {/if}
    {#if others.length > 0}<p class="aside mt-2">
        What waits on a device is kept there, and sent when you sign in on it again.
      </p>{/if}
  </section>
  {#if !data.isGuest}
    <section aria-labelledby="password">
      <h2 id="password">A new password</h2>
      <form method="POST" action="?/password" class="mt-2 flex flex-col gap-4" use:enhance>
        <input type="hidden" name="username" autocomplete="username" value={data.signInName} />
        <label class="flex flex-col gap-1">
          The one that holds now
          <input class="input w-full" name="current" type="password" autocomplete="current-password" required />
        </label>
        <NewPassword />
        <button class="btn self-start btn-primary">Change it</button>
      </form>
    </section>
  {/if}
  <p><a class="link" href="/">Back to the bush</a></p>
</Threshold>
