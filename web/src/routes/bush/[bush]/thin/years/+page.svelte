<script lang="ts">
  import YearsPage from '$lib/thin/YearsPage.svelte';
  import ThinPages from '$lib/thin/ThinPages.svelte';
</script>

<ThinPages />
<YearsPage />
