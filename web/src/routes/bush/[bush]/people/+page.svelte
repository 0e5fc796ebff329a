<script lang="ts">
  import { useBush } from '$lib/client/bush.svelte.ts';
  import Invite from '$lib/people/Invite.svelte';
  import Members from '$lib/people/Members.svelte';
  import Visitors from '$lib/people/Visitors.svelte';

  const bush = useBush();
</script>

<h1>People</h1>
<div class="mt-4 grid gap-x-10 gap-y-8 {bush.mayDecide ? 'lg:grid-cols-[minmax(0,1fr)_24rem]' : 'max-w-3xl'}">
  <section aria-labelledby="members">
    <h2 id="members">Who belongs to the bush</h2>
    <Members />
    {#if bush.mayDecide}<p class="mt-4">
        <a class="link" href="/bush/{bush.id}/log">Who changed what</a>: settings, people, files, keys and refusals.
      </p>{/if}
  </section>
  {#if bush.mayDecide}
    <div class="flex flex-col gap-8 max-lg:order-first">
      <section aria-labelledby="invite">
        <h2 id="invite">Ask somebody in</h2>
        <Invite />
      </section>
      <section aria-labelledby="visitors">
        <h2 id="visitors">Visitors</h2>
        <Visitors />
      </section>
    </div>
  {/if}
</div>
