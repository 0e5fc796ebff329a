<script lang="ts">
  import { listenTo, offeredDevices, type Device } from './wire.ts';

  /** A caliper or tape that sends its readings: what it sends goes into the field as if it were typed. */
  const { onreading }: { onreading: (written: string, device: Device) => void } = $props();
  let offered = $state.raw<readonly Device[]>([]);
  let device = $state.raw<Device | null>(null);
  let problem = $state<string | null>(null);
  void offeredDevices().then((devices) => (offered = devices.filter((d) => d.kind === 'caliper')));

  $effect(() => {
    const listening = device;
    if (!listening) return;
    return listenTo(
      listening,
      (line) => onreading(line, listening),
      (lost) => {
        problem = lost;
        device = null;
      }
    );
  });
</script>

{#if offered.length > 0}
  <p class="flex flex-wrap items-center gap-x-3 text-sm max-md:min-h-11" data-testid="devices">
    {#if device}
      <span role="status">Listening to the {device.name}: measure, and press its button.</span>
      <button type="button" class="link" onclick={() => (device = null)}>Stop</button>
    {:else}
      {#each offered as one (one.url)}
        <button
          type="button"
          class="link"
          onclick={() => {
            problem = null;
            device = one;
          }}>Listen to the {one.name}</button
        >
      {/each}
    {/if}
    {#if problem}<span role="alert" class="text-error">{problem}</span>{/if}
  </p>
{/if}
