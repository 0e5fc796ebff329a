<script lang="ts">
  import '../app.css';

  import { onMount } from 'svelte';

  import { preferences } from '$lib/client/preferences.svelte.ts';

  const { children } = $props();
  onMount(() => preferences.restore());
</script>

{@render children()}
