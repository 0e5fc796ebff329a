<script lang="ts">
  import StrategiesPage from '$lib/place/StrategiesPage.svelte';
  import PlacePages from '$lib/place/PlacePages.svelte';
</script>

<PlacePages />
<StrategiesPage />
