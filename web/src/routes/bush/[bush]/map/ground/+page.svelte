<script lang="ts">
  import GroundPage from '$lib/map/GroundPage.svelte';
</script>

<GroundPage />
