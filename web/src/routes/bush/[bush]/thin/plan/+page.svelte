<script lang="ts">
  import PlanPage from '$lib/thin/PlanPage.svelte';
  import ThinPages from '$lib/thin/ThinPages.svelte';
</script>

<ThinPages />
<PlanPage />
