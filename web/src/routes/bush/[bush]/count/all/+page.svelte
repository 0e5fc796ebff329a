<script lang="ts">
  import CountPages from '$lib/count/CountPages.svelte';
  import WholeBush from '$lib/count/WholeBush.svelte';
</script>

<CountPages />
<WholeBush />
