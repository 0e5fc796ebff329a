<script lang="ts">
  import { roleSchema, type Role } from '@baumkin/core/records';
  import { onMount } from 'svelte';
  import { toast } from 'svelte-sonner';

  import { api, asked } from '$lib/client/api.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';

  /** Who belongs to the bush, and letting others in. */
  const bush = useBush();
  let members = $state.raw<readonly { id: string; displayName: string; signInName: string; role: Role }[]>([]);
  let newName = $state('');
  let newRole = $state<Role>('crew');
  let memberProblem = $state('');
  const here = { params: { path: { bush: bush.id } } };
  onMount(async () => {
    members = (await asked(api.GET('/bushes/{bush}/members', here))).data?.members ?? [];
  });
  async function admit(): Promise<void> {
    const body = { signInName: newName, role: newRole };
    const answer = await asked(api.POST('/bushes/{bush}/members', { ...here, body }));
    memberProblem = answer.problem ?? '';
    if (answer.problem !== null) return;
    members = answer.data.members;
    newName = '';
  }

  /** whose sign-ins are about to be ended */
  let ending = $state<string | null>(null);
  async function signOut({ id, displayName }: (typeof members)[number]): Promise<void> {
    ending = null;
    const params = { path: { bush: bush.id, member: id } };
    const { problem } = await asked(api.DELETE('/bushes/{bush}/members/{member}/sessions', { params }));
    memberProblem = problem ?? '';
    if (problem === null)
      toast.success(`${displayName} is signed out everywhere. What waits on their devices stays there.`);
  }

  const ROLE_MEANS: Record<Role, string> = { steward: 'decides everything', crew: 'records work', viewer: 'looks' };
</script>

<ul class="mt-1 flex flex-col">
  {#each members as member (member.signInName)}
    <li class="flex flex-wrap items-baseline justify-between gap-x-3 border-b border-base-300/60 py-1.5">
      <span>{member.displayName} <span class="aside">({member.signInName})</span></span><span>{member.role}</span>
      {#if bush.mayDecide && member.id !== bush.overview!.member.id}
        {#if ending === member.id}
          <span class="flex w-full flex-wrap items-center gap-2 py-1"
            >Sign {member.displayName} out on every device?
            <button class="btn btn-sm" onclick={() => signOut(member)}>Sign out</button>
            <button class="btn btn-ghost btn-sm" onclick={() => (ending = null)}>Leave it</button></span
          >
        {:else}<button
            class="aside w-full link text-left"
            aria-label="Lost phone: sign {member.displayName} out"
            onclick={() => (ending = member.id)}>Lost a phone?</button
          >{/if}
      {/if}
    </li>
  {/each}
</ul>
{#if bush.mayDecide}
  <form
    class="mt-3 flex flex-col gap-2"
    onsubmit={(event) => {
      event.preventDefault();
      void admit();
    }}
  >
    <label class="flex flex-col gap-1"
      >Sign-in name<input class="input w-full" bind:value={newName} autocapitalize="none" required /></label
    >
    <label class="flex flex-col gap-1"
      >Role
      <select class="select w-full" bind:value={newRole}
        >{#each roleSchema.options as role (role)}<option value={role}>{role}: {ROLE_MEANS[role]}</option
          >{/each}</select
      >
    </label>
    {#if memberProblem}<p role="alert" class="font-semibold text-error">{memberProblem}</p>{/if}
    <button class="btn self-start btn-outline btn-sm">Let in, or change the role</button>
  </form>
{/if}
