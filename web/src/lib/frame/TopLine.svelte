<script lang="ts">
  import CircleHelp from '@lucide/svelte/icons/circle-question-mark';
  import History from '@lucide/svelte/icons/history';
  import Menu from '@lucide/svelte/icons/menu';
  import Moon from '@lucide/svelte/icons/moon';
  import Sun from '@lucide/svelte/icons/sun';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import ModalDialog from '$lib/ui/ModalDialog.svelte';

  import LastDone from './LastDone.svelte';
  import SignOut from './SignOut.svelte';

  const { onhelp }: { onhelp: () => void } = $props();
  const bush = useBush();
  let more = $state(false);
  let lastOpen = $state(false);
  const turned = $derived(preferences.theme === 'snow' ? 'Dark theme' : 'Light theme');
  const turnTheme = () => preferences.setTheme(preferences.theme === 'snow' ? 'night' : 'snow');

  const saved = $derived.by(() => {
    if (bush.outbox.refused.length > 0) return `${bush.outbox.refused.length} refused`;
    if (bush.outbox.unkept !== null) return 'Not saved';
    if (bush.outbox.keeping > 0) return 'Saving …';
    if (bush.signedOut) return bush.outbox.waiting > 0 ? `Signed out: ${bush.outbox.waiting} kept here` : 'Signed out';
    if (bush.outbox.waiting > 0)
      return bush.outbox.offline
        ? `No network: ${bush.outbox.waiting} kept on this device`
        : `Saving ${bush.outbox.waiting} …`;
    if (bush.outbox.offline) return 'No network';
    if (bush.progress) return `${bush.progress.trees} of ${bush.progress.of} trees here`;
    return bush.overview ? 'All saved' : 'Opening …';
  });
</script>

{#snippet units()}
  <div class="flex text-sm" role="group" aria-label="Units">
    {#each [['metric', 'cm'], ['inch', 'in']] as const as [system, label] (system)}
      <button
        class="h-8 min-w-9 border border-current px-2 first:rounded-l last:rounded-r last:border-l-0 {preferences.units ===
        system
          ? 'border-primary bg-primary font-bold text-primary-content'
          : ''}"
        aria-pressed={preferences.units === system}
        onclick={() => preferences.setUnits(system)}>{label}</button
      >
    {/each}
  </div>
{/snippet}

<header class="flex h-12 shrink-0 items-center gap-x-4 bg-neutral px-3 text-neutral-content md:px-4 print:hidden">
  <a href="/bush/{bush.id}" class="flex min-w-0 items-center gap-2.5" aria-label="State of the bush">
    <img src="/icon.svg" alt="" class="h-7 w-7 rounded-sm ring-1 ring-white/30" />
    <span class="truncate font-slab text-[1.05rem] font-semibold {bush.openQuestions > 0 ? 'max-md:hidden' : ''}"
      >{bush.overview?.bush.name ?? 'Baumkin'}</span
    >
  </a>
  {#if bush.overview}<span class="whitespace-nowrap max-md:hidden">Season {bush.season}</span>{/if}
  <a
    href="/bush/{bush.id}/exchange"
    class="ml-auto text-sm whitespace-nowrap underline-offset-4 hover:underline max-md:hidden">Files</a
  >
  <a href="/bush/{bush.id}/people" class="text-sm whitespace-nowrap underline-offset-4 hover:underline max-md:hidden"
    >People</a
  >
  {#if bush.openQuestions > 0}<a
      class="ml-auto flex min-h-11 items-center text-sm font-bold whitespace-nowrap underline underline-offset-4 md:ml-0"
      href="/bush/{bush.id}/questions">{counted(bush.openQuestions, 'question')}</a
    >{/if}
  <span
    class="truncate text-sm whitespace-nowrap {bush.openQuestions > 0 ? '' : 'max-md:ml-auto'}"
    role="status"
    data-testid="saved"
    >{saved}{#if saved === 'No network' && bush.overview}<span class="max-md:hidden">: working from this device</span
      >{/if}</span
  >
  <div class="max-md:hidden">{@render units()}</div>
  <button
    class="grid h-9 w-9 place-items-center rounded hover:bg-white/15 max-md:hidden"
    aria-label={turned}
    onclick={turnTheme}
  >
    {#if preferences.theme === 'snow'}<Moon size={18} />{:else}<Sun size={18} />{/if}
  </button>
  <button
    class="grid h-9 w-9 place-items-center rounded hover:bg-white/15 max-md:hidden"
    aria-label="Last things done"
    onclick={() => (lastOpen = true)}><History size={18} /></button
  >
  <button
    class="grid h-9 w-9 place-items-center rounded hover:bg-white/15 max-md:hidden"
    aria-label="Help"
    onclick={onhelp}><CircleHelp size={18} /></button
  >
  <SignOut class="max-md:hidden">
    <button class="text-sm whitespace-nowrap underline-offset-4 hover:underline" title="Sign out"
      >{bush.overview ? `${bush.overview.member.name} · sign out` : 'Sign out'}</button
    >
  </SignOut>
  <button
    class="-mr-2 grid h-11 w-11 place-items-center rounded hover:bg-white/15 md:hidden"
    aria-label="More"
    onclick={() => (more = true)}><Menu size={20} /></button
  >
</header>

<!-- What the line has no room for on a phone. -->
<ModalDialog bind:open={more} title="More">
  <ul class="flex flex-col text-lg">
    {#each [['Walk the tapping round', '/walk'], ['State of the bush', ''], ['Map', '/map'], ['Questions', '/questions'], ['Files', '/exchange'], ['People', '/people']] as [label, path] (path)}
      <li class="border-b border-base-300">
        <a class="flex min-h-12 items-center" href="/bush/{bush.id}{path}" onclick={() => (more = false)}>{label}</a>
      </li>
    {/each}
    <li class="border-b border-base-300">
      <button
        class="min-h-12 w-full text-left"
        onclick={() => {
          more = false;
          lastOpen = true;
        }}>Last things done</button
      >
    </li>
    <li class="border-b border-base-300">
      <button
        class="min-h-12 w-full text-left"
        onclick={() => {
          more = false;
          onhelp();
        }}>Help</button
      >
    </li>
    <li class="flex min-h-12 items-center justify-between border-b border-base-300">
      Units {@render units()}
    </li>
    <li class="border-b border-base-300">
      <button class="min-h-12 w-full text-left" onclick={turnTheme}>{turned}</button>
    </li>
    <li class="border-b border-base-300"><a class="flex min-h-12 items-center" href="/account">Your account</a></li>
    <li>
      <SignOut>
        <button class="min-h-12 w-full text-left">Sign out {bush.overview?.member.name ?? ''}</button>
      </SignOut>
    </li>
  </ul>
</ModalDialog>
<LastDone bind:open={lastOpen} />
