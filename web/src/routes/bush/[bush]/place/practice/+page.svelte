<script lang="ts">
  import PracticePage from '$lib/place/PracticePage.svelte';
  import PlacePages from '$lib/place/PlacePages.svelte';
</script>

<PlacePages />
<PracticePage />
