<script lang="ts">
  import { enhance } from '$app/forms';

  import { counted } from '$lib/labels/counted.ts';
  import Threshold from '$lib/ui/Threshold.svelte';

  const { data, form } = $props();
  let isMaking = $state(false);
</script>

<Threshold title="Look around in {data.name}">
  <p>
    A bush with {counted(data.trees, 'tree')} and many seasons behind it. You get a copy of your own: identify, count, drill
    and cut in it as you like. Nothing that you do there changes anything else.
  </p>
  <p>
    {data.signedIn
      ? 'The copy is gone after a week, or when you throw it away.'
      : 'It needs no account. The copy is gone after a day, or when you sign out.'}
  </p>
  {#if form?.message}<p role="alert" class="font-semibold text-error">{form.message}</p>{/if}
  <form
    method="POST"
    use:enhance={() => {
      isMaking = true;
      return async ({ update }) => {
        await update();
        isMaking = false;
      };
    }}
  >
    <button class="btn btn-primary" disabled={isMaking}>Make my copy</button>
    {#if isMaking}<p role="status" class="mt-2">
        {counted(data.trees, 'tree is', 'trees are')} being copied: some seconds …
      </p>{/if}
  </form>
  <p class="aside">
    {#if data.signedIn}<a class="link" href="/bushes">Back to your bushes</a>{:else}You have trees of your own?
      <a class="link" href="/sign-up">Make an account</a>, or <a class="link" href="/sign-in">sign in</a>.{/if}
  </p>
</Threshold>
