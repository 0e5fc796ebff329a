<script lang="ts">
  import CountPages from '$lib/count/CountPages.svelte';
  import HabitsPage from '$lib/count/HabitsPage.svelte';
</script>

<CountPages />
<HabitsPage />
