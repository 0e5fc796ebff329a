<script lang="ts">
  import { enhance } from '$app/forms';
  import { page } from '$app/state';

  import { keepTyped } from '$lib/client/keepTyped.ts';
  import NewAccount from '$lib/frame/NewAccount.svelte';
  import SignOut from '$lib/frame/SignOut.svelte';
  import { ROLE_LETS_YOU, ROLE_SAYS } from '$lib/labels/roles.ts';
  import Threshold from '$lib/ui/Threshold.svelte';

  const { data, form } = $props();
  const { invited } = $derived(data);
  const until = $derived(
    invited.expiresAt.toLocaleDateString('en-GB', { weekday: 'long', day: 'numeric', month: 'long' })
  );
</script>

<Threshold title="Come into {invited.bush}">
  <p>
    {invited.by} asks you in as <b>{ROLE_SAYS[invited.role]}</b>. {ROLE_LETS_YOU[invited.role]}
  </p>
  {#if form?.message}<p role="alert" class="font-semibold text-error">{form.message}</p>{/if}
  {#if data.already}
    <p>You belong to it already, as <b>{ROLE_SAYS[data.already.role]}</b>: this invitation gives you no more.</p>
    <a class="btn self-start btn-primary" href="/bush/{data.already.bushId}">Go to {invited.bush}</a>
  {:else if data.name !== null}
    <form method="POST" action="?/join" use:enhance>
      <button class="btn btn-primary">Come in as {data.name}</button>
    </form>
    <SignOut><button class="btn -ml-3 btn-ghost btn-sm">I am somebody else: sign out</button></SignOut>
  {:else}
    <form method="POST" action="?/begin" class="flex flex-col gap-4" use:enhance={keepTyped}>
      <NewAccount kept={form} />
      <button class="btn self-start btn-primary">Come in</button>
    </form>
    <p class="aside">
      You have an account here? <a class="link" href="/sign-in?to={encodeURIComponent(page.url.pathname)}">Sign in</a>.
    </p>
  {/if}
  <p class="aside">The invitation ends on {until}.</p>
</Threshold>
