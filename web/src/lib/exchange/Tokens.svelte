<script lang="ts">
  import { onMount } from 'svelte';

  import { api, asked } from '$lib/client/api.ts';
  import { saveAs } from '$lib/client/decode.ts';

  /** Keys for programs of one's own: a scale that reads the list, a script that files readings. */
  let tokens = $state.raw<readonly { id: string; name: string; mayWrite: boolean; expiresAt: string }[]>([]);
  let name = $state('');
  let mayWrite = $state(false);
  let made = $state.raw<{ name: string; token: string } | null>(null);
  let problem = $state('');

  async function look(): Promise<void> {
    const answer = await asked(api.GET('/tokens', {}));
    if (answer.problem === null) tokens = answer.data.tokens;
  }
  onMount(look);

  async function make(): Promise<void> {
    const answer = await asked(api.POST('/tokens', { body: { name, mayWrite, days: 365 } }));
    problem = answer.problem ?? '';
    if (answer.problem !== null) return;
    made = { name, token: answer.data.token };
    name = '';
    await look();
  }

  async function takeBack(token: string): Promise<void> {
    const answer = await asked(api.DELETE('/tokens/{token}', { params: { path: { token } } }));
    problem = answer.problem ?? '';
    if (answer.problem !== null) return;
    made = null;
    await look();
  }
</script>

<p class="aside mt-1">
  A program of yours gets a key instead of your password: <code>Authorization: Bearer …</code>. It can do what you can,
  for a year or until you take it back. What there is to ask stands in the
  <a class="link" href="/api/v1/openapi.json">description of the interface</a>.
</p>
<ul class="mt-1 flex flex-col">
  {#each tokens as token (token.id)}
    <li class="flex items-baseline justify-between gap-3 border-b border-base-300/60 py-1.5">
      <span
        >{token.name}
        <span class="aside">{token.mayWrite ? 'reads and writes' : 'reads'}, until {token.expiresAt.slice(0, 10)}</span
        ></span
      >
      <button class="link text-sm" onclick={() => takeBack(token.id)}>Take back</button>
    </li>
  {/each}
</ul>
{#if made}
  <div class="mt-2 border-l-4 border-primary pl-3" role="status">
    <p>The key for {made.name}. It is shown this once:</p>
    <p class="font-mono text-sm break-all" data-testid="token">{made.token}</p>
    <button class="link text-sm" onclick={() => saveAs('baumkin-key.txt', `${made!.token}\n`, 'text/plain')}
      >Keep it as a file</button
    >
  </div>
{/if}
<form
  class="mt-3 flex flex-col gap-2"
  onsubmit={(event) => {
    event.preventDefault();
    void make();
  }}
>
  <label class="flex flex-col gap-1"
    >For which program<input class="input w-full" bind:value={name} required maxlength="80" /></label
  >
  <label class="flex items-center gap-2"
    ><input type="checkbox" class="checkbox" bind:checked={mayWrite} /> It may write, too</label
  >
  {#if problem}<p role="alert" class="font-semibold text-error">{problem}</p>{/if}
  <button class="btn self-start btn-outline btn-sm">Make a key</button>
</form>
