<script lang="ts">
  import { enhance } from '$app/forms';
  import { page } from '$app/state';

  import SignOut from '$lib/frame/SignOut.svelte';
  import { ROLE_LETS_YOU, ROLE_SAYS } from '$lib/labels/roles.ts';
  import Threshold from '$lib/ui/Threshold.svelte';
  import { signInNameFor } from '$lib/words/signInName.ts';

  const { data, form } = $props();
  const { invited } = $derived(data);
  const until = $derived(
    invited.expiresAt.toLocaleDateString('en-GB', { weekday: 'long', day: 'numeric', month: 'long' })
  );
  let displayName = $state('');
  /** null while it follows from the name above */
  let ownName = $state<string | null>(null);
  const signInName = $derived(ownName ?? signInNameFor(displayName));
  $effect.pre(() => {
    if (!form) return;
    displayName = form.displayName;
    ownName = form.name || null;
  });
</script>

<Threshold title="Come into {invited.bush}">
  <p>
    {invited.by} asks you in as <b>{ROLE_SAYS[invited.role]}</b>. {ROLE_LETS_YOU[invited.role]}
  </p>
  {#if form?.message}<p role="alert" class="font-semibold text-error">{form.message}</p>{/if}
  {#if data.name !== null}
    <form method="POST" action="?/join" use:enhance>
      <button class="btn btn-primary">Come in as {data.name}</button>
    </form>
    <SignOut><button class="btn -ml-3 btn-ghost btn-sm">I am somebody else: sign out</button></SignOut>
  {:else}
    <form
      method="POST"
      action="?/begin"
      class="flex flex-col gap-4"
      use:enhance={() =>
        ({ update }) =>
          update({ reset: false })}
    >
      <label class="flex flex-col gap-1">
        Your name, as others see it
        <input
          class="input w-full"
          name="displayName"
          autocomplete="name"
          required
          maxlength="80"
          bind:value={displayName}
        />
      </label>
      <label class="flex flex-col gap-1">
        A password, 10 characters or more
        <input
          class="input w-full"
          name="password"
          type="password"
          autocomplete="new-password"
          minlength="10"
          required
        />
        <span class="aside">A short sentence is good. You need it again on another device only.</span>
      </label>
      <label class="flex flex-col gap-1">
        You sign in as
        <input
          class="input w-full"
          name="name"
          autocomplete="username"
          autocapitalize="none"
          required
          minlength="3"
          maxlength="80"
          value={signInName}
          oninput={({ currentTarget }) => (ownName = currentTarget.value)}
        />
      </label>
      <button class="btn self-start btn-primary">Come in</button>
    </form>
    <p class="aside">
      You have an account here? <a class="link" href="/sign-in?to={encodeURIComponent(page.url.pathname)}">Sign in</a>.
    </p>
  {/if}
  <p class="aside">The invitation ends on {until}.</p>
</Threshold>
