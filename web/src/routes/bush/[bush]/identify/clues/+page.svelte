<script lang="ts">
  import ClueTablePage from '$lib/identify/ClueTablePage.svelte';
  import IdentifyPages from '$lib/identify/IdentifyPages.svelte';
</script>

<IdentifyPages />
<ClueTablePage />
