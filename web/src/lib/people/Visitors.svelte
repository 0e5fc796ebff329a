<script lang="ts">
  import QRCode from 'qrcode';

  import { useBush } from '$lib/client/bush.svelte.ts';

  /** A page that whoever comes by can read, where the stewards open it: what is on it, and how people get to it. */
  const bush = useBush();
  const settings = $derived(bush.overview!.bush.settings);
  const link = $derived(`${window.location.origin}/visit/${bush.id}`);
  let problem = $state<string | null>(null);
  const picture = $derived(QRCode.toString(link, { type: 'svg', margin: 2 }));

  async function turn(): Promise<void> {
    problem = await bush.change.settings({ openToVisitors: !settings.openToVisitors });
  }
  async function say(words: string): Promise<void> {
    problem = await bush.change.settings({ visitorWords: words });
  }
</script>

<p class="mt-1">
  {settings.openToVisitors
    ? 'Whoever has the link reads which trees are tapped, how thick they are and how many holes each bears. No names of people, and no place on a map.'
    : 'A page for a school, a village or guests can be opened: which trees, how old, how many holes, and why the trees live well with them. It names no people.'}
</p>
{#if settings.openToVisitors}
  <label class="mt-3 flex flex-col gap-1"
    >What you say to visitors
    <textarea
      class="textarea w-full"
      rows="4"
      maxlength="1200"
      placeholder="Welcome. This bush belongs to …"
      value={settings.visitorWords}
      onchange={({ currentTarget }) => say(currentTarget.value)}></textarea>
  </label>
  {#await picture then svg}
    <div class="mt-3 flex flex-wrap items-start gap-4">
      <img
        src="data:image/svg+xml;utf8,{encodeURIComponent(svg)}"
        alt="The visitors’ page as a code for a phone’s camera"
        class="w-36 bg-white"
      />
      <p class="max-w-60 min-w-0">
        <a class="link break-all" href={link} data-testid="visit">{link}</a>
        <span class="aside mt-1 block">Print the code and hang it where the path begins.</span>
      </p>
    </div>
  {/await}
{/if}
{#if problem}<p role="alert" class="mt-2 font-semibold text-error">{problem}</p>{/if}
<button class="btn mt-3 btn-outline btn-sm" onclick={turn}
  >{settings.openToVisitors ? 'Close the page' : 'Open a page for visitors'}</button
>
