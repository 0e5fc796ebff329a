<script lang="ts">
  import ListPage from '$lib/thin/ListPage.svelte';
  import ThinPages from '$lib/thin/ThinPages.svelte';
</script>

<ThinPages />
<ListPage />
