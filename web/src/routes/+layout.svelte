<script lang="ts">
  import '../app.css';

  import { onMount } from 'svelte';
  import { Toaster } from 'svelte-sonner';

  import { endLeaving } from '$lib/client/leaving.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';

  const { children } = $props();
  onMount(() => {
    preferences.restore();
    void endLeaving();
  });
</script>

{@render children()}
<Toaster position="bottom-right" expand theme={preferences.theme === 'snow' ? 'light' : 'dark'} />
