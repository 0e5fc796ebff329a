<script lang="ts">
  import WalkPage from '$lib/walk/WalkPage.svelte';
</script>

<WalkPage />
