<script lang="ts">
  import { useBush } from '$lib/client/bush.svelte.ts';
  import IdentifyPages from '$lib/identify/IdentifyPages.svelte';
  import Practice from '$lib/identify/Practice.svelte';

  const bush = $derived(useBush());
</script>

<IdentifyPages />
{#if bush.overview}<Practice memberId={bush.overview.member.id} />{/if}
