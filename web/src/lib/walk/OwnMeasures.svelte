<script lang="ts">
  import { BODY_PARTS, isBody, type BodyPart, type OwnBody } from '@baumkin/core/trunk';

  import { preferences } from '$lib/client/preferences.svelte.ts';
  import LengthInput from '$lib/ui/LengthInput.svelte';
  import ModalDialog from '$lib/ui/ModalDialog.svelte';

  /** How high knee, hip and the rest are on whoever carries this phone: heights are told by them then, without a tape. */
  let { open = $bindable() }: { open: boolean } = $props();
  const WORDS: Readonly<Record<BodyPart, string>> = {
    knee: 'knee',
    hip: 'hip bone',
    breast: 'breast bone',
    shoulder: 'shoulder',
    reach: 'reach, arm stretched up'
  };
  /** of a grown person, to begin with; working assumption */
  const USUAL: OwnBody = { knee: 500, hip: 950, breast: 1250, shoulder: 1400, reach: 2000 };
  let body = $state<Record<BodyPart, number>>({ ...(preferences.body ?? USUAL) });
  let problems = $state<Partial<Record<BodyPart, string | null>>>({});
  const unread = $derived(BODY_PARTS.map((part) => problems[part]).find((problem) => problem));
  const problem = $derived(unread ?? (isBody(body) ? null : 'Each of them is higher than the one before.'));
  function keep(kept: OwnBody | null): void {
    preferences.setBody(kept);
    open = false;
  }
</script>

<ModalDialog bind:open title="Your own measures">
  <p>Once, in your boots, from the ground. Heights on the trunk are then told by your body, from the snow too.</p>
  <div class="mt-3 flex flex-col gap-2 text-base">
    {#each BODY_PARTS as part (part)}
      <label class="flex items-center justify-between gap-3"
        >{WORDS[part]}
        <LengthInput
          use="hand"
          class="input h-12 w-32 text-lg"
          bind:valueMm={body[part]}
          bind:problem={() => problems[part] ?? null, (says) => (problems[part] = says)}
        /></label
      >
    {/each}
  </div>
  {#if problem}<p role="alert" class="mt-2 font-semibold text-error">{problem}</p>{/if}
  <div class="mt-4 flex flex-wrap gap-2">
    <button class="btn h-14 btn-primary" disabled={problem !== null} onclick={() => keep({ ...body })}>Keep them</button
    >
    {#if preferences.body}<button class="btn h-14" onclick={() => keep(null)}>Forget them</button>{/if}
  </div>
</ModalDialog>
