<script lang="ts">
  import MapPage from '$lib/map/MapPage.svelte';
</script>

<MapPage />
