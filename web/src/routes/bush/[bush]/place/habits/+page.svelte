<script lang="ts">
  import PlacingsPage from '$lib/place/PlacingsPage.svelte';
  import PlacePages from '$lib/place/PlacePages.svelte';
</script>

<PlacePages />
<PlacingsPage />
