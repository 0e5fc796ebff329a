<script lang="ts">
  import { crossingsWith, lineCrossings, type LineCrossing, type LineJudged } from '@baumkin/core/bush';
  import { CROSSING_WAYS, type DecidedCrossing } from '@baumkin/core/lines';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { saved } from '$lib/client/saved.ts';
  import { CROSSING_WAY_WORDS, crossingCare, crossingWords } from '$lib/labels/crossings.ts';
  import { capital } from '$lib/words/capital.ts';

  /**
   * How does the line get across? Overhead or through a culvert is decided here, with what either asks for at this place, by how the line was
   * levelled there: a culvert that does not fall is found in the first frost otherwise.
   */
  const { judged, onkept }: { judged: LineJudged; onkept: (id: string) => void } = $props();
  const bush = useBush();
  const crossings = $derived(lineCrossings(judged, bush.features));
  const at = ({ alongM }: LineCrossing) => preferences.length(1000 * alongM, 'way');
  async function decide(crossing: LineCrossing, decided: DecidedCrossing | null): Promise<void> {
    const { id, recordedAt: _at, ...line } = judged.line;
    const record = await bush.recordOfBush({
      ...line,
      crossings: crossingsWith(judged.line, crossing, decided),
      correctsId: id
    });
    onkept(record.id);
    saved(bush, `${line.name} ${crossingWords({ ...crossing, decided }, at(crossing))}.`, record);
  }
</script>

{#if crossings.length > 0}
  <div data-testid="line-crossings">
    <h2>What it crosses</h2>
    <ul class="flex flex-col gap-3">
      {#each crossings as crossing (`${crossing.feature.id} ${crossing.alongM}`)}
        {@const { asks, decided } = crossing}
        {@const care = crossingCare(crossing)}
        <li>
          <p>{capital(crossingWords(crossing, at(crossing)))}.</p>
          {#if care}<p
              class={crossing.decided?.how === 'culvert' && crossing.fall !== null ? 'font-semibold' : 'aside'}
            >
              {capital(care)}.
            </p>{/if}
          {#if asks && bush.mayDecide}
            <div class="mt-1 flex flex-wrap items-center gap-3 print:hidden">
              <select
                class="select w-48"
                aria-label="How it crosses {crossing.feature.name}"
                value={decided?.how ?? ''}
                onchange={({ currentTarget: { value } }) =>
                  void decide(
                    crossing,
                    CROSSING_WAYS.includes(value as never)
                      ? { how: value as DecidedCrossing['how'], insulated: decided?.insulated ?? true }
                      : null
                  )}
              >
                <option value="">not decided</option>
                {#each CROSSING_WAYS as way (way)}<option value={way}>{CROSSING_WAY_WORDS[way]}</option>{/each}
              </select>
              {#if decided}<label class="flex min-h-9 items-center gap-2"
                  ><input
                    type="checkbox"
                    class="checkbox"
                    checked={decided.insulated}
                    onchange={({ currentTarget: { checked } }) =>
                      void decide(crossing, { ...decided, insulated: checked })}
                  /> wrapped</label
                >{/if}
            </div>
          {/if}
        </li>
      {/each}
    </ul>
    {#if crossings.some(({ asks }) => asks)}
      <p class="aside mt-2">
        Overhead, a line is seen, and mended standing; tall loads find it. A culvert leaves the way free, has to fall
        all through, and thaws last. Our way: overhead where people walk, a culvert where wood is hauled; wrapped either
        way.
      </p>
    {/if}
  </div>
{/if}
