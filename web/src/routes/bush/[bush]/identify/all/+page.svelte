<script lang="ts">
  import AllTrees from '$lib/identify/AllTrees.svelte';
  import IdentifyPages from '$lib/identify/IdentifyPages.svelte';
</script>

<IdentifyPages />
<AllTrees />
