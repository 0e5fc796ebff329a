<script lang="ts">
  import type { Role } from '@baumkin/core/records';
  import { onMount } from 'svelte';
  import QRCode from 'qrcode';
  import { toast } from 'svelte-sonner';

  import { api, asked } from '$lib/client/api.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { listed } from '$lib/words/listed.ts';
  import type { AnswerOf } from '$lib/server/contract.ts';
  import { ROLE_MEANS, ROLE_SAYS } from '$lib/labels/roles.ts';
  import ToggleGroup from '$lib/ui/ToggleGroup.svelte';

  /** Ways in, handed out as a link or a code to point a phone at: each with a role, and each ends by itself. */
  type Invitation = AnswerOf<'Invitations'>['invitations'][number];
  const bush = useBush();
  let invitations = $state.raw<readonly Invitation[]>([]);
  let role = $state<Role>('crew');
  let reach = $state<'one' | 'many'>('one');
  let ends = $state<'1' | '7' | '30'>('7');
  let note = $state('');
  let problem = $state('');
  let made = $state.raw<{ readonly link: string; readonly picture: string; readonly says: string } | null>(null);
  const here = { params: { path: { bush: bush.id } } };
  const open = $derived(invitations.filter((each) => each.open));
  const ended = $derived(invitations.filter((each) => !each.open && each.joined.length > 0));
  /** an address that no other device reaches */
  const isOnlyHere = ['localhost', '127.0.0.1', '[::1]'].includes(window.location.hostname);
  const canShare = 'share' in navigator;
  const ROLES = [
    { id: 'crew', label: 'Helper' },
    { id: 'viewer', label: 'Viewer' },
    { id: 'steward', label: 'Steward' }
  ] as const;

  onMount(async () => {
    invitations = (await asked(api.GET('/bushes/{bush}/invitations', here))).data?.invitations ?? [];
  });

  const day = (at: string) =>
    new Date(at).toLocaleDateString('en-GB', { weekday: 'long', day: 'numeric', month: 'long' });

  async function make(): Promise<void> {
    const body = { role, note, forMany: reach === 'many', days: Number(ends) };
    const answer = await asked(api.POST('/bushes/{bush}/invitations', { ...here, body }));
    problem = answer.problem ?? '';
    if (answer.problem !== null) return;
    invitations = answer.data.invitations;
    const link = `${window.location.origin}/join/${answer.data.code}`;
    const whom = reach === 'many' ? 'Whoever has it comes in' : 'The first who opens it comes in';
    made = {
      link,
      picture: `data:image/svg+xml;utf8,${encodeURIComponent(await QRCode.toString(link, { type: 'svg', margin: 2 }))}`,
      says: `${whom} as ${ROLE_SAYS[role]}, until ${day(invitations[0]!.expiresAt)}.`
    };
    note = '';
  }

  async function copy(): Promise<void> {
    try {
      await navigator.clipboard.writeText(made!.link);
      toast.success('The link is copied.');
    } catch {
      toast.error('The browser does not let it be copied. Select the link and copy it.');
    }
  }

  async function end(invitation: string): Promise<void> {
    const params = { path: { bush: bush.id, invitation } };
    const answer = await asked(api.DELETE('/bushes/{bush}/invitations/{invitation}', { params }));
    problem = answer.problem ?? '';
    if (answer.problem === null) invitations = answer.data.invitations;
  }
</script>

{#if made}
  <div class="mt-2 border-l-4 border-primary pl-4" role="status" data-testid="invitation">
    <p class="font-semibold">{made.says}</p>
    <div class="mt-2 flex flex-wrap items-start gap-4">
      <img src={made.picture} alt="The link as a code for a phone’s camera" class="w-48 bg-white" />
      <div class="flex max-w-72 min-w-0 flex-col gap-2">
        <p>Let them point the phone’s camera at it, or send the link:</p>
        <p class="font-mono text-sm break-all select-all" data-testid="link">{made.link}</p>
        <div class="flex flex-wrap gap-2">
          <button class="btn btn-sm" onclick={copy}>Copy the link</button>
          {#if canShare}<button
              class="btn btn-sm"
              onclick={() =>
                navigator.share({ title: bush.overview?.bush.name, url: made!.link }).catch(() => undefined)}
              >Send it …</button
            >{/if}
        </div>
        <p class="aside">It is shown this once. Whoever has it can come in, so send it to them alone.</p>
        {#if isOnlyHere}<p class="font-semibold">
            This address is one of this computer alone. Phones of the same network come in where the server was started
            with <code>npm run serve:lan</code>.
          </p>{/if}
        <button class="min-h-9 link self-start text-sm" onclick={() => (made = null)}>Ask somebody else in</button>
      </div>
    </div>
  </div>
{:else}
  <form
    class="mt-2 flex flex-col gap-3"
    onsubmit={(event) => {
      event.preventDefault();
      void make();
    }}
  >
    <div>
      <ToggleGroup label="What they may do" look="boxes" options={ROLES} bind:value={role} />
      <p class="aside mt-1">{ROLE_SAYS[role][0]!.toUpperCase()}{ROLE_SAYS[role].slice(1)}: {ROLE_MEANS[role]}.</p>
    </div>
    <ToggleGroup
      label="For how many"
      look="boxes"
      options={[
        { id: 'one', label: 'For one person' },
        { id: 'many', label: 'For all of a crew' }
      ]}
      bind:value={reach}
    />
    <ToggleGroup
      label="How long it opens"
      look="boxes"
      options={[
        { id: '1', label: 'A day' },
        { id: '7', label: 'A week' },
        { id: '30', label: 'A month' }
      ]}
      bind:value={ends}
    />
    <label class="flex flex-col gap-1"
      >For whom, for your own list
      <input class="input w-full" bind:value={note} maxlength="80" placeholder="may be left empty" />
    </label>
    <button class="btn self-start btn-primary">Make the invitation</button>
  </form>
{/if}
{#if problem}<p role="alert" class="mt-2 font-semibold text-error">{problem}</p>{/if}
{#if open.length > 0}
  <h3 class="mt-5 font-semibold">Open invitations</h3>
  <ul data-testid="invitations">
    {#each open as each (each.id)}
      <li class="flex items-baseline justify-between gap-3 border-b border-base-300 py-1.5">
        <span
          >{each.note || (each.forMany ? 'A crew' : 'One person')}
          <span class="aside"
            >{ROLE_SAYS[each.role]}, until {day(each.expiresAt)}, by {each.by}{each.joined.length > 0
              ? `; came: ${listed(each.joined)}`
              : ''}</span
          ></span
        >
        <button class="min-h-9 link text-sm whitespace-nowrap" onclick={() => end(each.id)}>End it</button>
      </li>
    {/each}
  </ul>
{/if}
{#if ended.length > 0}
  <p class="aside mt-3">
    Came by invitations that have ended: {listed(ended.flatMap(({ joined }) => joined))}.
  </p>
{/if}
