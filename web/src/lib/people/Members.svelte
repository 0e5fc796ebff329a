<script lang="ts">
  import { roleSchema, type Role } from '@baumkin/core/records';
  import { onMount } from 'svelte';
  import { toast } from 'svelte-sonner';

  import { api, asked } from '$lib/client/api.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { ROLE_MEANS, ROLE_SAYS } from '$lib/labels/roles.ts';

  import type { AnswerOf } from '$lib/server/contract.ts';

  import { heldWords, type Held } from './heldWords.ts';

  /** Who belongs to the bush, what each may do, and what of the bush is on whose device. */
  type Member = AnswerOf<'Members'>['members'][number];
  const bush = useBush();
  let members = $state.raw<readonly Member[] | null>(null);
  let held = $state.raw<readonly Held[]>([]);
  let problem = $state('');
  /** what is about to be done to whom */
  let asking = $state.raw<{ readonly id: string; readonly what: 'signOut' | 'remove' | 'founder' } | null>(null);
  const here = { params: { path: { bush: bush.id } } };
  const mine = $derived(bush.overview?.member.id);
  /** devices of people who have no way in any more */
  const left = $derived(held.filter(({ memberId }) => members?.every(({ id }) => id !== memberId)));
  const nameOf = (id: string) => bush.overview?.people.find((each) => each.id === id)?.name ?? 'Somebody';
  const leaving = $derived(
    bush.outbox.waiting > 0
      ? `${counted(bush.outbox.waiting, 'thing')} that you wrote did not arrive yet. Leave once they have.`
      : null
  );

  async function look(): Promise<void> {
    const answer = await asked(api.GET('/bushes/{bush}/members', here));
    problem = answer.problem ?? '';
    members = answer.data?.members ?? members;
    if (bush.mayDecide) held = (await asked(api.GET('/bushes/{bush}/devices', here))).data?.held ?? [];
  }
  onMount(look);

  const path = (member: string) => ({ params: { path: { bush: bush.id, member } } });

  async function change({ id }: Member, role: Role): Promise<void> {
    const answer = await asked(api.PATCH('/bushes/{bush}/members/{member}', { ...path(id), body: { role } }));
    problem = answer.problem ?? '';
    // Where it was refused, the field goes back to what holds.
    members = answer.data?.members ?? [...(members ?? [])];
  }

  async function signOut({ id, displayName }: Member): Promise<void> {
    asking = null;
    const answer = await asked(api.DELETE('/bushes/{bush}/members/{member}/sessions', path(id)));
    if (answer.problem === null)
      toast.success(`${displayName} is signed out everywhere. What waits on their devices stays there.`);
    await look();
    problem = answer.problem ?? problem;
  }

  /** may I pass the founding on? */
  const iFounded = $derived(members?.some(({ id, founder }) => founder && id === mine) ?? false);
  async function passOn({ id, displayName }: Member): Promise<void> {
    asking = null;
    const answer = await asked(api.PUT('/bushes/{bush}/founder', { ...here, body: { member: id } }));
    problem = answer.problem ?? '';
    members = answer.data?.members ?? members;
    if (answer.problem === null) toast.success(`${displayName} is the founder of this bush now.`);
  }

  async function leave(): Promise<void> {
    asking = null;
    const answer = await asked(api.DELETE('/bushes/{bush}/membership', here));
    problem = answer.problem ?? '';
    if (answer.problem !== null) return;
    // The server says no from now on, and the device drops what it holds.
    await bush.refresh();
    window.location.href = '/bushes';
  }

  async function remove({ id, displayName }: Member): Promise<void> {
    asking = null;
    const answer = await asked(api.DELETE('/bushes/{bush}/members/{member}', path(id)));
    if (answer.problem === null) toast.success(`${displayName} has no way in any more.`);
    await look();
    problem = answer.problem ?? problem;
  }
</script>

{#snippet devices(of: readonly Held[])}
  {#each of as device, i (i)}
    <p class="aside {device.waiting > 0 ? 'text-base-content' : ''}">
      {heldWords(device)}
    </p>
  {/each}
{/snippet}

{#snippet ask(words: string, label: string, run: () => void, rather = 'Leave it as it is')}
  <div class="mt-1 border-l-4 border-primary pl-3" role="group" aria-label={words}>
    <p>{words}</p>
    <div class="mt-1 flex flex-wrap gap-2">
      <button class="btn btn-sm" onclick={run}>{label}</button>
      <button class="btn btn-ghost btn-sm" onclick={() => (asking = null)}>{rather}</button>
    </div>
  </div>
{/snippet}

{#if problem}<p role="alert" class="mt-2 font-semibold text-error">{problem}</p>{/if}
<ul class="mt-1 flex flex-col" data-testid="members">
  {#each members ?? [] as member (member.id)}
    {@const isMe = member.id === mine}
    {@const theirs = held.filter(({ memberId }) => memberId === member.id)}
    {@const waits = theirs.reduce((sum, { waiting }) => sum + waiting, 0)}
    <li class="border-b border-base-300 py-3">
      <div class="flex flex-wrap items-center gap-x-4 gap-y-1">
        <div class="flex min-w-0 grow flex-wrap items-baseline gap-x-2">
          <h3 class="text-lg font-semibold">{member.displayName}</h3>
          <span class="aside">{isMe ? 'you; ' : ''}signs in as {member.signInName}</span>
        </div>
        {#if bush.mayDecide && !member.founder}
          <select
            class="select w-auto min-w-36 select-sm max-md:min-h-11"
            aria-label="What {member.displayName} may do"
            value={member.role}
            onchange={({ currentTarget }) => change(member, currentTarget.value as Role)}
            >{#each roleSchema.options as role (role)}<option value={role}>{ROLE_SAYS[role]}</option>{/each}</select
          >
        {:else}<span>{member.founder ? 'founder' : ROLE_SAYS[member.role]}</span>{/if}
      </div>
      <p class="aside">
        {ROLE_MEANS[member.role]}{#if member.founder}; nobody else changes the founder’s role{/if}
      </p>
      {@render devices(theirs)}
      {#if bush.mayDecide && theirs.length === 0}<p class="aside">No device of theirs holds the bush.</p>{/if}
      {#if asking?.id === member.id && asking.what === 'signOut'}
        {@render ask(
          `Sign ${member.displayName} out on every device? What waits there is sent when they sign in again.`,
          'Sign out',
          () => signOut(member)
        )}
      {:else if asking?.id === member.id && asking.what === 'founder'}
        {@render ask(
          `Pass the founding on to ${member.displayName}? Only they can give it back. You stay a steward.`,
          'Pass it on',
          () => void passOn(member)
        )}
      {:else if asking?.id === member.id && isMe}
        {@render ask(
          leaving ??
            'Leave this bush? What you wrote stays, under your name; this device drops what it holds of the bush.',
          leaving ? 'All right' : 'Leave the bush',
          () => (leaving ? (asking = null) : void leave()),
          'Stay'
        )}
      {:else if asking?.id === member.id}
        {@render ask(
          `Take ${member.displayName} out? What they wrote stays, under their name.${waits > 0 ? ` ${counted(waits, 'record')} on their devices did not arrive, and cannot after this.` : ''}`,
          'Take out',
          () => void remove(member)
        )}
      {:else if isMe}
        <a class="mr-4 inline-flex min-h-9 link items-center text-sm" href="/account">Password and devices</a>
        <button class="min-h-9 link text-sm" onclick={() => (asking = { id: member.id, what: 'remove' })}
          >Leave this bush</button
        >
      {:else if bush.mayDecide}
        <p class="flex flex-wrap gap-x-5">
          <button
            class="min-h-9 link text-sm"
            aria-label="Lost phone: sign {member.displayName} out"
            onclick={() => (asking = { id: member.id, what: 'signOut' })}>Lost a phone?</button
          >
          {#if !member.founder}<button
              class="min-h-9 link text-sm"
              aria-label="Take {member.displayName} out of the bush"
              onclick={() => (asking = { id: member.id, what: 'remove' })}>Take out</button
            >{/if}
          {#if iFounded && member.role === 'steward'}<button
              class="min-h-9 link text-sm"
              aria-label="Pass the founding on to {member.displayName}"
              onclick={() => (asking = { id: member.id, what: 'founder' })}>Pass the founding on</button
            >{/if}
        </p>
      {/if}
    </li>
  {:else}
    {#if members === null && !problem}<li class="aside py-3">Looking …</li>{/if}
  {/each}
</ul>
{#if left.length > 0}
  <h3 class="mt-5 font-semibold">Not in the bush any more, and still carrying it</h3>
  <p class="aside">Each of these drops it when it next reaches the server.</p>
  <ul class="mt-1">
    {#each left as device, i (i)}
      <li class="py-1"><b>{nameOf(device.memberId)}</b>: {heldWords(device)}</li>
    {/each}
  </ul>
{/if}
