<script lang="ts">
  import { page } from '$app/state';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { counted } from '$lib/labels/counted.ts';

  /** The session is over in the middle of the work: it goes on here, and a sign-in sends what was written. */
  const bush = useBush();
  const kept = $derived(bush.outbox.waiting);
</script>

<div
  role="alert"
  class="flex shrink-0 flex-wrap items-center justify-between gap-x-4 gap-y-1 bg-error px-4 py-1.5 text-error-content print:hidden"
>
  <p>
    You are signed out. Go on working: {kept > 0
      ? `${counted(kept, 'record')} ${kept === 1 ? 'waits' : 'wait'} on this device and ${kept === 1 ? 'is' : 'are'} sent`
      : 'what you write waits on this device and is sent'} once you are signed in.
  </p>
  <a
    class="flex min-h-12 items-center font-bold whitespace-nowrap underline"
    href="/sign-in?to={encodeURIComponent(page.url.pathname)}"
    data-sveltekit-reload>Sign in and go on</a
  >
</div>
