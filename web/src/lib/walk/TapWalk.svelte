<script lang="ts">
  import { speciesById } from '@baumkin/core/identify';
  import { untrack } from 'svelte';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { counted } from '$lib/labels/counted.ts';
  import StandSelect from '$lib/ui/StandSelect.svelte';
  import { TappingRound } from '$lib/place/tappingRound.svelte.ts';

  import TapStopView from './TapStop.svelte';
  import { drilledToday, tapStops, type TapStop } from './tapStops.ts';
  import { PlanAhead } from './planAhead.svelte.ts';
  import OwnMeasures from './OwnMeasures.svelte';
  import OtherRounds from './OtherRounds.svelte';
  import { Walk } from './walk.svelte.ts';
  import WalkFrame from './WalkFrame.svelte';

  /** So many trees have their holes planned before they are come to. */
  const TREES_AHEAD = 3;

  /** The tapping round on a phone: one tree, one question, one big answer. */
  const bush = useBush();
  const round = untrack(() => new TappingRound(bush));
  $effect(() => void round.follow());
  const walk: Walk<TapStop> = untrack(() => new Walk(bush, 'tap', () => stops));
  const inStand = (standId: string | null) => walk.standId === '' || walk.standId === standId;
  const me = $derived(bush.overview!.member.name);
  const helpers = $derived([...new Set(round.helpers.values())]);
  /** whose part is walked: her own, where she has one and chose no other */
  const part = $derived(
    walk.helper !== null && [...helpers, ''].includes(walk.helper) ? walk.helper : helpers.includes(me) ? me : ''
  );
  const lines = $derived(
    round.lines.filter(({ row }) => inStand(row.standId) && (part === '' || round.helpers.get(row.id) === part))
  );
  const by = $derived({ memberId: bush.overview!.member.id, today: bush.today });
  const stops = $derived(tapStops(lines, by, walk.passed));
  const left = $derived(lines.reduce((sum, line) => sum + line.left, 0));
  const mine = $derived(lines.reduce((sum, line) => sum + drilledToday(line, by).length, 0));
  const drilled = $derived(lines.reduce((sum, { state }) => sum + state.holesThisSeason.length, 0));
  const last = $derived(walk.done.at(-1) ?? null);
  /** Brown wood of the hole before sticks to the bit. */
  const wipe = $derived(
    last?.records.some((record) => record.kind === 'shavings' && (record.seen === 'partly' || record.seen === 'brown'))
  );

  let measuring = $state(false);
  // Where nobody planned the holes of a tree yet, or something was learned since, it is planned before she gets there.
  const ahead = new PlanAhead(bush);
  $effect(() => {
    if (walk.started && bush.mayRecord) ahead.plan(walk.ahead.slice(0, TREES_AHEAD));
  });
</script>

<WalkFrame
  {walk}
  title="Tapping round"
  reading={round.isRead ? null : round.reading}
  left="{counted(left, 'hole')} on {counted(walk.ahead.length, 'tree')}"
  progress={{ done: drilled, of: drilled + left, mine, what: 'holes are drilled' }}
  mayStart={left > 0}
  aloud={({ line, asks }) => {
    const hole = line.open[0];
    if (asks) return 'What came out?';
    return hole ? `Tree ${line.row.tag}. ${round.said(line, hole).sentence}` : null;
  }}
>
  {#snippet about({ line, asks }: TapStop)}
    {line.row.species ? speciesById(line.row.species).name : 'maple'}, {preferences.length(
      line.row.dbhMm!,
      'trunk'
    )}{line.taps > 1 ? `; hole ${line.taps - line.left + (asks ? 0 : 1)} of ${line.taps}` : ''}
  {/snippet}
  {#snippet caution({ sick, asks }: TapStop)}
    {#if sick}<p class="caution shrink-0 text-base">Sick tree: wipe the bit before and after.</p>
    {:else if wipe && !asks}<p class="caution shrink-0 text-base">Brown wood: wipe the bit.</p>{/if}
  {/snippet}
  {#snippet question(stop: TapStop)}
    {#key `${stop.treeId} ${stop.asks?.id ?? ''} ${stop.line.left}`}<TapStopView
        {stop}
        {round}
        {walk}
        failed={ahead.failed}
      />{/key}
  {/snippet}
  {#snippet start()}
    <p class="font-slab text-3xl leading-tight font-semibold">
      {left > 0
        ? `${counted(left, 'hole')} to drill on ${counted(walk.ahead.length, 'tree')}.`
        : drilled > 0
          ? 'Nothing is left to drill here.'
          : 'No tree here has a count to drill.'}
    </p>
    <p>
      {left > 0 ? `That takes ${round.timeFor(left)}. ` : ''}{drilled > 0
        ? `${counted(drilled, 'hole')} drilled, ${mine} of them by you today.`
        : ''}
      {left === 0 && drilled > 0 ? 'Count the spouts that are left over.' : ''}
    </p>
    {#if bush.openQuestions > 0}<a
        class="flex min-h-12 link items-center border-l-[6px] border-warning pl-4 font-semibold"
        href="/bush/{bush.id}/questions">{counted(bush.openQuestions, 'question')} about what was drilled</a
      >{/if}
    <div class="flex flex-wrap gap-2">
      <StandSelect bind:value={walk.standId} />
      {#if helpers.length > 0}<select
          class="select h-12 w-44 text-base"
          aria-label="Whose part"
          bind:value={() => part, (chosen) => (walk.helper = chosen)}
        >
          <option value="">everybody’s part</option>
          {#each helpers as name (name)}<option value={name}>{name === me ? 'your part' : name}</option>{/each}
        </select>{/if}
    </div>
    <p class="caution">
      Both hands on the drill, firm footing, goggles. In and out in one go, slightly upward. Local rules and trained
      people come first.
    </p>
    <button class="flex min-h-12 link items-center self-start" onclick={() => (measuring = true)}
      >{preferences.body ? 'Heights by your own measures' : 'Tell heights by your own body'}</button
    >
    <OtherRounds current="tap" />
  {/snippet}
  {#snippet instead()}
    <a class="btn h-16 shrink-0 text-lg" href="/bush/{bush.id}/place/round">The whole round</a>
  {/snippet}
</WalkFrame>
<OwnMeasures bind:open={measuring} />
