<script lang="ts">
  import { saveAs } from '$lib/client/decode.ts';

  /** Keys for programs of one's own: a scale that reads the list, a script that files readings. */
  interface Token {
    id: string;
    name: string;
    mayWrite: boolean;
    expiresAt: string;
  }
  let tokens = $state.raw<Token[]>([]);
  let name = $state('');
  let mayWrite = $state(false);
  let made = $state.raw<{ name: string; token: string } | null>(null);
  let problem = $state('');

  async function call(path: string, method: string, body?: object): Promise<Response | null> {
    problem = '';
    const response = await fetch(`/api/v1/tokens${path}`, {
      method,
      headers: { 'content-type': 'application/json' },
      body: body && JSON.stringify(body)
    }).catch(() => null);
    if (response?.ok) return response;
    const answer = (await response?.json().catch(() => null)) as { message?: string } | null;
    problem = answer?.message ?? 'The server cannot be reached.';
    return null;
  }

  async function look(): Promise<void> {
    const response = await fetch('/api/v1/tokens').catch(() => null);
    if (response?.ok) tokens = ((await response.json()) as { tokens: Token[] }).tokens;
  }
  $effect(() => void look());

  async function make(): Promise<void> {
    const response = await call('', 'POST', { name, mayWrite, days: 365 });
    if (!response) return;
    const { token } = (await response.json()) as { token: string };
    made = { name, token };
    name = '';
    await look();
  }

  async function takeBack(id: string): Promise<void> {
    if (!(await call(`/${id}`, 'DELETE'))) return;
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
