<script lang="ts">
  import RoundPage from '$lib/place/RoundPage.svelte';
  import PlacePages from '$lib/place/PlacePages.svelte';
</script>

<PlacePages />
<RoundPage />
