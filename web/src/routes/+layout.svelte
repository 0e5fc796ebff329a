<script lang="ts">
  import '../app.css';

  import { onMount } from 'svelte';
  import { Toaster } from 'svelte-sonner';

  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { LEFT_COOKIE } from '$lib/leftCookie.ts';

  const { children } = $props();
  onMount(() => {
    preferences.restore();
    // Seldom needed, and with the whole store behind it.
    if (document.cookie.includes(LEFT_COOKIE)) void import('$lib/client/leaving.ts').then((left) => left.endLeaving());
  });
</script>

{@render children()}
<Toaster position="bottom-right" expand theme={preferences.theme === 'snow' ? 'light' : 'dark'} />
