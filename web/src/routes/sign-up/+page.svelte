<script lang="ts">
  import { enhance } from '$app/forms';

  import Threshold from '$lib/ui/Threshold.svelte';

  const { form } = $props();
</script>

<Threshold title="Make an account">
  <form method="POST" class="flex flex-col gap-4" use:enhance>
    <label class="flex flex-col gap-1">
      Your name, as others see it
      <input class="input w-full" name="displayName" autocomplete="name" required value={form?.displayName} />
    </label>
    <label class="flex flex-col gap-1">
      Sign-in name
      <input
        class="input w-full"
        name="name"
        autocomplete="username"
        autocapitalize="none"
        required
        value={form?.name}
      />
    </label>
    <label class="flex flex-col gap-1">
      Password, 10 characters or more
      <input class="input w-full" name="password" type="password" autocomplete="new-password" minlength="10" required />
    </label>
    {#if form?.message}<p role="alert" class="font-semibold text-error">{form.message}</p>{/if}
    <button class="btn self-start btn-primary">Make the account</button>
  </form>
  <p class="aside">Have one? <a class="link" href="/sign-in">Sign in</a>.</p>
</Threshold>
