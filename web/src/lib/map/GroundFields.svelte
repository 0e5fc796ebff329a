<script lang="ts" module>
  import type { Stand } from '@baumkin/core/records';

  /** A stand's soil and sun, and what may be done there by whose word. */
  export type Ground = Pick<
    Stand,
    'soilDepth' | 'hardPan' | 'soilPh' | 'sun' | 'mayTap' | 'mayCut' | 'byWord' | 'wordUntil'
  >;
</script>

<script lang="ts">
  let { ground = $bindable() }: { ground: Ground } = $props();
</script>

<details>
  <summary class="cursor-pointer font-semibold">Soil and sun, and who may do what here</summary>
  <div class="mt-2 flex flex-col gap-2">
    <label class="flex items-center gap-3"
      ><span class="w-28">Roots reach</span>
      <select class="select grow select-sm" bind:value={ground.soilDepth}>
        <option value={null}>not looked</option><option value="deep">deep</option><option value="shallow"
          >no deeper than a spade</option
        >
      </select></label
    >
    <label class="flex items-center gap-3"
      ><span class="w-28">A hard pan</span>
      <select class="select grow select-sm" bind:value={ground.hardPan}>
        <option value={null}>not looked</option><option value={true}>yes</option><option value={false}>no</option>
      </select></label
    >
    <label class="flex items-center gap-3"
      ><span class="w-28">pH of the soil</span><input
        class="input w-24 input-sm"
        type="number"
        min="2.5"
        max="9"
        step="0.1"
        placeholder="not known"
        bind:value={ground.soilPh}
      /></label
    >
    <label class="flex items-center gap-3"
      ><span class="w-28">In late winter</span>
      <select class="select grow select-sm" bind:value={ground.sun}>
        <option value={null}>not looked</option><option value="sunny">the sun warms its trunks</option><option
          value="shady">its trunks stay in the shade</option
        >
      </select></label
    >
    <label class="flex items-center gap-2"
      ><input type="checkbox" class="checkbox checkbox-sm" bind:checked={ground.mayTap} /> may be tapped</label
    >
    <label class="flex items-center gap-2"
      ><input type="checkbox" class="checkbox checkbox-sm" bind:checked={ground.mayCut} /> trees may be cut</label
    >
    <label class="flex items-center gap-3"
      ><span class="w-28">who says so</span><input
        class="input grow input-sm"
        maxlength="120"
        placeholder="owner, lease, reserve"
        bind:value={ground.byWord}
      /></label
    >
    <label class="flex items-center gap-3"
      ><span class="w-28">until</span><input
        class="input grow input-sm"
        type="date"
        bind:value={() => ground.wordUntil ?? '', (day) => (ground.wordUntil = day === '' ? null : day)}
      /></label
    >
  </div>
</details>
