<script lang="ts">
  import { useBush } from '$lib/client/bush.svelte.ts';
  import Invite from '$lib/people/Invite.svelte';
  import Members from '$lib/people/Members.svelte';

  const bush = useBush();
</script>

<h1>People</h1>
<div class="mt-4 grid gap-x-10 gap-y-8 {bush.mayDecide ? 'lg:grid-cols-[minmax(0,1fr)_24rem]' : 'max-w-3xl'}">
  <section aria-labelledby="members">
    <h2 id="members">Who belongs to the bush</h2>
    <Members />
  </section>
  {#if bush.mayDecide}
    <section aria-labelledby="invite" class="max-lg:order-first">
      <h2 id="invite">Ask somebody in</h2>
      <Invite />
    </section>
  {/if}
</div>
