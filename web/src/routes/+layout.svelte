<script lang="ts">
  import '../app.css';

  import { onMount } from 'svelte';
  import { Toaster } from 'svelte-sonner';

  import { preferences } from '$lib/client/preferences.svelte.ts';

  const { children } = $props();
  onMount(() => preferences.restore());
</script>

{@render children()}
<Toaster position="bottom-right" expand theme={preferences.theme === 'snow' ? 'light' : 'dark'} />
