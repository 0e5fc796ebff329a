<script lang="ts">
  import BaseMapPage from '$lib/map/BaseMapPage.svelte';
</script>

<BaseMapPage />
