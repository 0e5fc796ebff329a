<script lang="ts">
  import { pipeLinesIn } from '@baumkin/core/bush';
  import { alongCourse, distanceToEdge, type Point } from '@baumkin/core/geometry';
  import { BORES_MM, PIPE_USES, USUAL_DROP_MM, USUAL_PIPE, type PipeUse } from '@baumkin/core/lines';
  import type { PipeLineRecord } from '@baumkin/core/records';
  import { untrack } from 'svelte';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { saved } from '$lib/client/saved.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { PIPE_USE_WORDS } from '$lib/labels/lines.ts';
  import LengthInput from '$lib/ui/LengthInput.svelte';
  import ModalDialog from '$lib/ui/ModalDialog.svelte';

  import { treesNamed } from './treesNamed.ts';

  /** What a line is: what it is for, its pipe, how it is held, where it runs to, and whose drops hang on it. */
  interface Props {
    open: boolean;
    of?: PipeLineRecord | null;
    /** as it was drawn, from its upper end */
    points: readonly Point[];
    onkept?: (line: PipeLineRecord) => void;
  }
  let { open = $bindable(), of = null, points, onkept }: Props = $props();
  const bush = useBush();

  /** Trees so near to a lateral are tapped into it, metres, where nobody says otherwise. */
  const NEAR_M = 3;
  let name = $state('');
  let use = $state<PipeUse>('lateral');
  let boreMm = $state(7.9);
  let held = $state<'wire' | 'hand'>('hand');
  let spanMm = $state(4000);
  let to = $state('');
  let tags = $state('');
  let dropMm = $state(750);
  let turned = $state(false);
  let staysUp = $state(false);
  let unreadable = $state<Record<string, string | null>>({});
  const lines = $derived(
    pipeLinesIn(bush.bushRecords).filter(({ id, use: its }) => id !== of?.id && its !== 'lateral')
  );
  const places = $derived(bush.bushRecords.filter((record) => record.kind === 'collectingPlace'));
  $effect(() => {
    if (!open) return;
    untrack(() => {
      name = of?.name ?? '';
      take(of?.use ?? (lines.length === 0 ? 'main' : 'lateral'));
      if (of) ({ boreMm, held } = of);
      spanMm = 1000 * (of?.spanM ?? USUAL_PIPE[use].spanM);
      to = of?.intoId ?? of?.placeId ?? lines[0]?.id ?? places[0]?.id ?? '';
      dropMm = of?.drops[0]?.dropMm ?? bush.overview!.bush.settings.dropMm ?? USUAL_DROP_MM;
      turned = false;
      staysUp = of?.staysUp ?? false;
      tags = of ? of.drops.flatMap(({ treeId }) => bush.byId.get(treeId)?.tag ?? []).join(', ') : '';
    });
  });
  function take(next: PipeUse): void {
    use = next;
    ({ boreMm, held } = USUAL_PIPE[next]);
    spanMm = 1000 * USUAL_PIPE[next].spanM;
  }
  const near = $derived(
    bush.rows.filter(
      ({ eastM, northM, decidedTaps, drilled }) =>
        eastM !== null &&
        northM !== null &&
        ((decidedTaps ?? 0) > 0 || drilled > 0) &&
        points.length > 1 &&
        distanceToEdge([eastM, northM], points, false) <= NEAR_M
    )
  );
  const named = $derived(treesNamed(tags, bush.rows));
  const lengthM = $derived(points.length > 1 ? alongCourse(points).at(-1)! : 0);
  const problem = $derived(
    Object.values(unreadable).find((each) => each !== null) ??
      (name.trim() === '' ? 'It needs a name that the crew knows it by.' : null) ??
      (lengthM < 0.5 ? 'Draw it on the map first, from its upper end to its foot.' : null) ??
      (named.unknown.length > 0 ? `No tree has the tag ${named.unknown.slice(0, 5).join(', ')}.` : null)
  );

  async function keep(): Promise<void> {
    if (problem) return;
    const known = new Map(of?.drops.map((drop) => [drop.treeId, drop.dropMm]));
    const wasMm = of?.drops[0]?.dropMm;
    const record = (await bush.recordOfBush({
      kind: 'pipeLine',
      name: name.trim(),
      use,
      points: (turned ? points.toReversed() : points).map(([east, north]): [number, number] => [east, north]),
      boreMm,
      held,
      spanM: spanMm / 1000,
      intoId: lines.some(({ id }) => id === to) ? to : null,
      placeId: places.some(({ id }) => id === to) ? to : null,
      // A length that was typed holds for all; drops that were longer or shorter stay so.
      drops: named.rows.map(({ id }) => ({
        treeId: id,
        dropMm: wasMm === dropMm ? (known.get(id) ?? dropMm) : dropMm
      })),
      // What was levelled from its other end is of another course.
      runsSince: of && turned ? new Date().toISOString() : (of?.runsSince ?? null),
      crossings: of?.crossings ?? [],
      staysUp,
      note: of?.note ?? '',
      ...(of ? { correctsId: of.id } : {})
    })) as PipeLineRecord;
    // Before it closes: what was drawn goes with it.
    saved(bush, `${name.trim()}: ${preferences.length(1000 * lengthM, 'way')}.`, record);
    open = false;
    onkept?.(record);
  }
</script>

<ModalDialog bind:open title={of ? `Change ${of.name}` : 'A line'} width="34rem">
  <form
    class="flex flex-col gap-3"
    onsubmit={(event) => {
      event.preventDefault();
      void keep();
    }}
  >
    <label class="flex flex-col gap-1">Name <input class="input w-full" maxlength="60" bind:value={name} /></label>
    <div class="flex flex-wrap items-end gap-4">
      <label class="flex flex-col gap-1"
        >What it is <select
          class="select w-36"
          value={use}
          onchange={(event) => take(event.currentTarget.value as PipeUse)}
        >
          {#each PIPE_USES as each (each)}<option value={each}>{PIPE_USE_WORDS[each]}</option>{/each}
        </select></label
      >
      <label class="flex flex-col gap-1"
        >Bore <select class="select w-28" bind:value={boreMm}>
          {#each [...new Set([...BORES_MM, boreMm])].sort((a, b) => a - b) as each (each)}<option value={each}
              >{preferences.length(each, 'drill')}</option
            >{/each}
        </select></label
      >
      <label class="flex grow flex-col gap-1"
        >It runs into <select class="select w-full" bind:value={to}>
          <option value="">nothing yet</option>
          {#each lines as line (line.id)}<option value={line.id}>{line.name}</option>{/each}
          {#each places as place (place.id)}<option value={place.id}>{place.name}</option>{/each}
        </select></label
      >
    </div>
    <div class="flex flex-wrap items-end gap-4">
      <label class="flex flex-col gap-1"
        >Held <select class="select w-44" bind:value={held}>
          <option value="wire">on a wire</option>
          <option value="hand">drawn tight by hand</option>
        </select></label
      >
      <label class="flex flex-col gap-1"
        >One post or tie to the next <LengthInput
          class="input w-28"
          use="way"
          bind:valueMm={spanMm}
          bind:problem={() => unreadable.span ?? null, (p) => (unreadable.span = p)}
        /></label
      >
      <label class="flex min-h-10 items-center gap-2"
        ><input type="checkbox" class="checkbox" bind:checked={staysUp} /> stays up all year</label
      >
    </div>
    <label class="flex flex-col gap-1"
      >Trees whose drops hang on it, by their tags
      <textarea class="textarea w-full" rows="2" placeholder="101-105, 120" bind:value={tags}></textarea></label
    >
    {#if near.length > 0}<button
        type="button"
        class="link self-start"
        onclick={() => (tags = near.map(({ tag }) => tag).join(', '))}
        >{counted(near.length, 'tapped tree')} within {preferences.length(1000 * NEAR_M, 'way')} of it: take {near.length ===
        1
          ? 'it'
          : 'them'}</button
      >{/if}
    <label class="flex items-end gap-3"
      >Each drop is <LengthInput
        class="input w-28"
        use="hand"
        bind:valueMm={dropMm}
        bind:problem={() => unreadable.drop ?? null, (p) => (unreadable.drop = p)}
      /></label
    >
    <p class="aside">
      {preferences.length(1000 * lengthM, 'way')}, drawn from its {turned ? 'foot' : 'upper end'}.
      <button type="button" class="link" onclick={() => (turned = !turned)}
        >{turned ? 'No, from its upper end' : 'It was drawn from its foot: turn it round'}</button
      >
    </p>
    {#if problem && name !== ''}<p role="alert" class="text-error">{problem}</p>{/if}
    <button class="btn self-start btn-primary" disabled={problem !== null}>Keep it</button>
  </form>
</ModalDialog>
