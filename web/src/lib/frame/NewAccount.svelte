<script lang="ts">
  import { signInNameFor } from '$lib/words/signInName.ts';

  import NewPassword from './NewPassword.svelte';

  /** The fields of a new account: a name, from which the sign-in name follows until it is changed, and a password. */
  const { kept }: { kept: { readonly name: string; readonly displayName: string } | null | undefined } = $props();
  let displayName = $state('');
  /** null while it follows from the name above */
  let ownName = $state<string | null>(null);
  const signInName = $derived(ownName ?? signInNameFor(displayName));
  $effect.pre(() => {
    if (!kept) return;
    displayName = kept.displayName;
    ownName = kept.name || null;
  });
</script>

<label class="flex flex-col gap-1">
  Your name, as others see it
  <input class="input w-full" name="displayName" autocomplete="name" required maxlength="80" bind:value={displayName} />
</label>
<label class="flex flex-col gap-1">
  Sign-in name
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
<NewPassword />
