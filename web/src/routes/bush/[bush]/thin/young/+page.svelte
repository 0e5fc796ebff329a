<script lang="ts">
  import YoungPage from '$lib/thin/YoungPage.svelte';
  import ThinPages from '$lib/thin/ThinPages.svelte';
</script>

<ThinPages />
<YoungPage />
