<script lang="ts">
  import BrownPage from '$lib/place/BrownPage.svelte';
  import PlacePages from '$lib/place/PlacePages.svelte';
</script>

<PlacePages />
<BrownPage />
