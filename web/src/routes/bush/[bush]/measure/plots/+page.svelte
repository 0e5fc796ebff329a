<script lang="ts">
  import PlotsPage from '$lib/measure/PlotsPage.svelte';
  import MeasurePages from '$lib/measure/MeasurePages.svelte';
</script>

<MeasurePages />
<PlotsPage />
