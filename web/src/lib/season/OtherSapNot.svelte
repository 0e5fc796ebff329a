<script lang="ts">
  import type { OtherSap } from '@baumkin/core/identify';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { OTHER_TREES } from '$lib/labels/taps.ts';
  import EmptyState from '$lib/ui/EmptyState.svelte';

  /** A birch or walnut in a bush that does not tap its kind. */
  const { kind }: { kind: OtherSap } = $props();
  const bush = useBush();
</script>

<EmptyState>
  This is no maple but a {kind}: some boil its sap by itself, and this bush does not tap its {OTHER_TREES[kind]}. What
  that would bring is told at <a class="link" href="/bush/{bush.id}/season/others">Birch and walnut</a>.
</EmptyState>
