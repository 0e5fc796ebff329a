<script lang="ts">
  import GaugesPage from '$lib/measure/GaugesPage.svelte';
  import MeasurePages from '$lib/measure/MeasurePages.svelte';
</script>

<MeasurePages />
<GaugesPage />
