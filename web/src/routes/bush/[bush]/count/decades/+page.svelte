<script lang="ts">
  import CountPages from '$lib/count/CountPages.svelte';
  import DecadesPage from '$lib/count/DecadesPage.svelte';
</script>

<CountPages />
<DecadesPage />
