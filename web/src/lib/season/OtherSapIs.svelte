<script lang="ts">
  import type { OtherSap } from '@baumkin/core/identify';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { capital } from '$lib/words/capital.ts';

  /** A birch or walnut in a bush that taps its kind: when that is, and that it is never taken as maple. */
  const { kind }: { kind: OtherSap } = $props();
  const bush = useBush();
</script>

<p class="border-l-[6px] border-warning pl-4" data-testid="other-sap">
  {capital(kind)}, no maple: {kind === 'birch'
    ? 'drilled after the maples, when its own sap rises'
    : 'drilled with the maples'}, and its sap is never put together with theirs.
  <a class="link" href="/bush/{bush.id}/season/others">Birch and walnut</a>
</p>
