<script lang="ts">
  import type { PositionQuality } from '@baumkin/core/stand';
  import { onDestroy, onMount } from 'svelte';

  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { groundUnit } from '$lib/ui/readMetres.ts';
  import { fromOrigin } from '$lib/words/fromOrigin.ts';

  import type { PlaceAnswer, WayToPlace } from './placeAnswer.svelte.ts';

  /** Where a tree stands, given in the way in which it was found: each way says how far it may be off. */
  const { answer, legend = 'Where it stands' }: { answer: PlaceAnswer; legend?: string } = $props();

  const WAYS: Record<WayToPlace, string> = {
    map: 'tapped on the map',
    from: 'bearing and distance',
    here: 'by a receiver, here',
    degrees: 'latitude and longitude',
    metres: 'metres from the origin'
  };
  const WORDS: Record<PositionQuality, string> = {
    surveyed: 'surveyed, to a hand or two',
    paced: 'paced, to a metre or so',
    phone: 'by phone, to five metres or so'
  };
  const receiver = $derived(answer.receiver);
  onMount(() => void answer.receiver.find());
  onDestroy(() => answer.receiver.stop());
</script>

<fieldset class="flex flex-col gap-2">
  <legend class="mb-1 font-semibold">{legend}</legend>
  <label class="flex items-center gap-3"
    ><span class="w-20">Found</span>
    <select class="select grow" bind:value={answer.way}>
      {#each Object.entries(WAYS) as [id, words] (id)}
        {#if id !== 'map' || answer.tapped !== null}<option value={id}>{words}</option>{/if}
      {/each}
    </select></label
  >
  {#if answer.way === 'from'}
    <div class="grid grid-cols-3 gap-2">
      <label class="flex flex-col gap-1"
        >From <input
          class="input w-full"
          placeholder="tag or plot"
          autocomplete="off"
          bind:value={answer.anchor}
        /></label
      >
      <label class="flex flex-col gap-1"
        >Bearing <input
          class="input w-full"
          inputmode="decimal"
          placeholder="215°"
          bind:value={answer.bearing}
        /></label
      >
      <label class="flex flex-col gap-1"
        >Distance <input
          class="input w-full"
          placeholder={groundUnit() === 'm' ? '4.2 m' : '14 ft'}
          bind:value={answer.distance}
        /></label
      >
    </div>
    <p class="aside">Bearing from true north, from the mark towards the new tree.</p>
  {:else if answer.way === 'degrees' || answer.way === 'metres'}
    <div class="grid grid-cols-2 gap-2">
      <label class="flex flex-col gap-1"
        >{answer.way === 'degrees' ? 'Latitude' : 'East'}
        <input
          class="input w-full"
          placeholder={answer.way === 'degrees' ? '46.50123' : '12.5 m'}
          bind:value={answer.first}
        /></label
      >
      <label class="flex flex-col gap-1"
        >{answer.way === 'degrees' ? 'Longitude' : 'North'}
        <input
          class="input w-full"
          placeholder={answer.way === 'degrees' ? '-40.00345' : '40 m'}
          bind:value={answer.second}
        /></label
      >
    </div>
  {:else if answer.way === 'here'}
    {#if receiver.source === null}
      <div class="flex flex-wrap gap-2">
        <button type="button" class="btn btn-outline btn-sm" onclick={() => receiver.ownPhone()}
          >This device’s own</button
        >
        {#each receiver.offered as device (device.url)}
          <button type="button" class="btn btn-outline btn-sm" onclick={() => receiver.listen(device)}
            >{device.name}</button
          >
        {/each}
      </div>
    {:else}
      <p role="status">
        {#if receiver.problem}{receiver.problem}
        {:else if receiver.mean}{receiver.mean.fixes} fixes so far, within about {preferences.length(
            receiver.mean.accuracyM * 1000,
            'ground'
          )}. Stand still at the trunk: it gets better for a minute or two.
        {:else}Waiting for a fix …{/if}
        <button type="button" class="link" onclick={() => receiver.stop()}>Stop</button>
      </p>
    {/if}
  {/if}
  {#if answer.way !== 'here'}
    <label class="flex items-center gap-3"
      ><span class="w-20">Known</span>
      <select class="select grow" bind:value={answer.quality}>
        {#each Object.entries(WORDS) as [id, words] (id)}<option value={id}>{words}</option>{/each}
      </select></label
    >
  {/if}
  {#if answer.problem}<p role="alert" class="font-semibold text-error">{answer.problem}</p>{/if}
  {#if answer.wants}<p class="aside">{answer.wants}</p>{/if}
  {#if answer.place}
    <p class="aside">
      {fromOrigin(answer.place)}{answer.degrees
        ? ` (${answer.degrees.lat.toFixed(6)}, ${answer.degrees.lon.toFixed(6)})`
        : ''}, {answer.place.quality}.
    </p>
  {/if}
</fieldset>
