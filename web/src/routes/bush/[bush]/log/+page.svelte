<script lang="ts">
  import LogPage from '$lib/people/LogPage.svelte';
</script>

<LogPage />
