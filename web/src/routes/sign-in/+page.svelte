<script lang="ts">
  import { enhance } from '$app/forms';

  import { keepTyped } from '$lib/client/keepTyped.ts';
  import Threshold from '$lib/ui/Threshold.svelte';

  const { data, form } = $props();
  let name = $state('');
  let password = $state('');
  $effect.pre(() => {
    if (form?.name) name = form.name;
  });

  function offerDemo(): void {
    name = data.demo!.name;
    password = data.demo!.password;
  }
</script>

<Threshold title="Sign in">
  <form method="POST" class="flex flex-col gap-4" use:enhance={keepTyped}>
    <label class="flex flex-col gap-1">
      Sign-in name
      <input
        class="input w-full"
        name="name"
        autocomplete="username"
        autocapitalize="none"
        required
        bind:value={name}
      />
    </label>
    <label class="flex flex-col gap-1">
      Password
      <input
        class="input w-full"
        name="password"
        type="password"
        autocomplete="current-password"
        required
        bind:value={password}
      />
    </label>
    {#if form?.message}<p role="alert" class="font-semibold text-error">{form.message}</p>{/if}
    <button class="btn self-start btn-primary">Sign in</button>
  </form>
  {#if data.demo}
    <div class="border-t border-base-300 pt-4">
      <p>
        This is a demo with an invented bush, {data.demo.bush}. Sign in as <b>{data.demo.name}</b> with the password
        <b>{data.demo.password}</b>.
      </p>
      <button class="btn mt-2 btn-outline btn-sm" onclick={offerDemo}>Fill that in</button>
    </div>
  {/if}
  {#if data.example !== null}
    <p><a class="link" href="/look-around">Look around in {data.example}</a> without an account.</p>
  {/if}
  <p class="aside">
    {#if data.open}New here? <a class="link" href="/sign-up">Make an account</a>.{:else}New here? A steward asks you in
      by a link.{/if}
    Password lost? Whoever runs this server makes you a link for a new one.
  </p>
</Threshold>
