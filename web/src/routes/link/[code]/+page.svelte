<script lang="ts">
  import { enhance } from '$app/forms';

  import { keepTyped } from '$lib/client/keepTyped.ts';
  import NewAccount from '$lib/frame/NewAccount.svelte';
  import NewPassword from '$lib/frame/NewPassword.svelte';
  import Threshold from '$lib/ui/Threshold.svelte';

  const { data, form } = $props();
</script>

<Threshold title={data.whose ? 'A new password' : 'The first account'}>
  <p>
    {data.whose
      ? `For ${data.whose.displayName}, who signs in as ${data.whose.signInName}. Every device is signed out; what waits on them is sent when they sign in again.`
      : 'This server is new. Make your account; after that you name your bush.'}
  </p>
  <form method="POST" class="flex flex-col gap-4" use:enhance={keepTyped}>
    {#if data.whose}<NewPassword />{:else}<NewAccount kept={form} />{/if}
    {#if form?.message}<p role="alert" class="font-semibold text-error">{form.message}</p>{/if}
    <button class="btn self-start btn-primary">{data.whose ? 'Keep it' : 'Make the account'}</button>
  </form>
</Threshold>
