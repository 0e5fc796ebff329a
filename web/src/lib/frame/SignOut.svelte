<script lang="ts">
  import type { Snippet } from 'svelte';
  import { toast } from 'svelte-sonner';

  import { endLeaving } from '$lib/client/leaving.ts';

  /** Signs out: what the device keeps of bushes goes; what still waits in the outbox stays for its writer. */
  const { children, class: look = '' }: { children: Snippet; class?: string } = $props();

  async function leave(event: SubmitEvent): Promise<void> {
    event.preventDefault();
    // It answers with the way to the sign-in page, which is gone once everything is cleared away.
    const answer = await fetch('/sign-out', { method: 'POST', redirect: 'manual' }).catch(() => null);
    if (answer?.type !== 'opaqueredirect') {
      toast.error(
        'The server does not answer: sign out once there is a network. Until then the bush stays on this device, and so does what waits to be sent.'
      );
      return;
    }
    await endLeaving();
    window.location.href = '/sign-in';
  }
</script>

<form method="POST" action="/sign-out" class={look} onsubmit={leave}>
  {@render children()}
</form>
