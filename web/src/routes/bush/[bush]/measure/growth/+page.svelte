<script lang="ts">
  import GrowthPage from '$lib/measure/GrowthPage.svelte';
  import MeasurePages from '$lib/measure/MeasurePages.svelte';
</script>

<MeasurePages />
<GrowthPage />
