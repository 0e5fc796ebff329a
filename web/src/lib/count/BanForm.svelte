<script lang="ts">
  import { TAP_BANS, type TapBanReason } from '@baumkin/core/records';

  import { saved } from '$lib/client/saved.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { BAN_LABELS } from '$lib/labels/permission.ts';

  /** Says that a tree is never to be tapped, whatever it bears: its sap would not be food, or it is not ours. */
  const { treeId }: { treeId: string } = $props();
  const bush = useBush();
  const ban = $derived(bush.stateOf(treeId).tapBan);
  let open = $state(false);
  let reasons = $state<TapBanReason[]>([]);
  let until = $state('');

  async function save(): Promise<void> {
    const record = await bush.record(treeId, {
      kind: 'tapBan',
      reasons: [...reasons],
      until: until === '' ? null : until
    });
    open = false;
    saved(bush, 'This tree is not to be tapped.', record);
  }
</script>

{#if bush.mayDecide}
  {#if ban}
    <button class="link self-start text-sm" onclick={() => void bush.withdraw(ban)}>It may be tapped again</button>
  {:else if open}
    <form
      class="flex flex-col gap-2 border-l-4 border-base-content pl-3"
      data-testid="ban-form"
      onsubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <p class="font-semibold">Never tap it, because</p>
      {#each TAP_BANS as reason (reason)}
        <label class="flex items-center gap-2 max-md:min-h-11"
          ><input type="checkbox" class="checkbox checkbox-sm" value={reason} bind:group={reasons} />
          {BAN_LABELS[reason]}</label
        >
      {/each}
      <label class="flex items-center gap-2"
        >until <input class="input w-40 input-sm" type="date" min={bush.today} bind:value={until} />
        <span class="aside">leave it empty for good</span></label
      >
      <div class="flex gap-2">
        <button class="btn btn-primary btn-sm" disabled={reasons.length === 0}>Keep it so</button>
        <button type="button" class="btn btn-ghost btn-sm" onclick={() => (open = false)}>Cancel</button>
      </div>
    </form>
  {:else}
    <button
      class="link self-start text-sm"
      onclick={() => {
        reasons = [];
        open = true;
      }}>Never tap this tree …</button
    >
  {/if}
{/if}
