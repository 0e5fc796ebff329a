<script lang="ts">
  import QuestionsPage from '$lib/questions/QuestionsPage.svelte';
</script>

<QuestionsPage />
