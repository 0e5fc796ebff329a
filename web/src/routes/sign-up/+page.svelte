<script lang="ts">
  import { enhance } from '$app/forms';

  import { keepTyped } from '$lib/client/keepTyped.ts';
  import NewAccount from '$lib/frame/NewAccount.svelte';
  import Threshold from '$lib/ui/Threshold.svelte';

  const { data, form } = $props();
</script>

<Threshold title="Make an account">
  {#if !data.open}
    <p>
      Accounts here are for those who were asked in. Ask a steward for an invitation: a link, or a code for the phone.
    </p>
  {:else}
    <form method="POST" class="flex flex-col gap-4" use:enhance={keepTyped}>
      <NewAccount kept={form} />
      {#if form?.message}<p role="alert" class="font-semibold text-error">{form.message}</p>{/if}
      <button class="btn self-start btn-primary">Make the account</button>
    </form>
  {/if}
  <p class="aside">Have one? <a class="link" href="/sign-in">Sign in</a>.</p>
</Threshold>
