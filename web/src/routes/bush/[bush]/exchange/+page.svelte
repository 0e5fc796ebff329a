<script lang="ts">
  import { roleSchema, writeBadRows, type LengthUnit, type Role } from '@baumkin/core';
  import { wrap } from 'comlink';
  import { toast } from 'svelte-sonner';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import type { ImportPreview, ImportWorker } from '$lib/workers/import.worker.ts';

  const bush = $derived(useBush());
  const MOST_BYTES = 7_000_000;
  const TEMPLATE =
    'tag,stand,species,girth_cm,measured_on,method,east_m,north_m,position_quality,holes\n101,Hill,sugar maple,115,2026-10-01,tape,12.5,40,paced,2024:180:95;2025:205:120\n102,Hill,red maple,88,2026-10-01,tape,18,43.5,paced,\n';

  let fileName = $state('');
  let text = $state<string | null>(null);
  let unit = $state<LengthUnit>(preferences.units === 'metric' ? 'cm' : 'in');
  let preview = $state.raw<ImportPreview | null>(null);
  let problem = $state('');
  let busy = $state(false);

  async function take(file: File | undefined): Promise<void> {
    preview = null;
    text = null;
    problem = '';
    if (!file) return;
    fileName = file.name;
    if (file.size > MOST_BYTES) {
      problem = `${file.name} is larger than 7 MB. Split it and import the parts; nothing was changed.`;
      return;
    }
    text = decode(await file.arrayBuffer());
    await read();
  }

  /** UTF-8 as a rule; old spreadsheets write Windows-1252. */
  function decode(bytes: ArrayBuffer): string {
    try {
      return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    } catch {
      return new TextDecoder('windows-1252').decode(bytes);
    }
  }

  async function read(): Promise<void> {
    if (text === null) return;
    busy = true;
    const worker = new Worker(new URL('../../../../lib/workers/import.worker.ts', import.meta.url), { type: 'module' });
    try {
      preview = await wrap<ImportWorker>(worker).read(
        text,
        bush.rows.map((r) => r.tag.toLowerCase()),
        bush.today,
        unit
      );
    } finally {
      worker.terminate();
      busy = false;
    }
  }

  async function bring(): Promise<void> {
    if (!text) return;
    busy = true;
    try {
      const response = await fetch(`/api/v1/bushes/${bush.id}/import`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ text, defaultUnit: unit })
      });
      const body = (await response.json()) as { stored?: number; message?: string };
      if (!response.ok) {
        problem = body.message ?? 'The server could not take the file; nothing was changed.';
        return;
      }
      toast.success(`${body.stored} trees brought in.`);
      await bush.refresh();
      await read();
    } catch {
      problem = 'The server cannot be reached. The file is still here; try again when there is a network.';
    } finally {
      busy = false;
    }
  }

  function save(name: string, content: string): void {
    const url = URL.createObjectURL(new Blob([content], { type: 'text/csv' }));
    const link = document.createElement('a');
    link.href = url;
    link.download = name;
    link.click();
    URL.revokeObjectURL(url);
  }

  let members = $state.raw<{ displayName: string; signInName: string; role: Role }[]>([]);
  let newName = $state('');
  let newRole = $state<Role>('crew');
  let memberProblem = $state('');
  $effect(() => {
    void fetch(`/api/v1/bushes/${bush.id}/members`)
      .then((r) => (r.ok ? r.json() : { members: [] }))
      .then((body: { members: typeof members }) => (members = body.members))
      .catch(() => (members = []));
  });
  async function admit(): Promise<void> {
    memberProblem = '';
    const response = await fetch(`/api/v1/bushes/${bush.id}/members`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ signInName: newName, role: newRole })
    }).catch(() => null);
    const body = (await response?.json()) as { members?: typeof members; message?: string } | undefined;
    if (response?.ok && body?.members) {
      members = body.members;
      newName = '';
    } else memberProblem = body?.message ?? 'The server cannot be reached.';
  }

  const ROLE_MEANS: Record<Role, string> = { steward: 'decides everything', crew: 'records work', viewer: 'looks' };
</script>

<h1>Files and people</h1>
<div class="mt-4 grid gap-x-10 gap-y-8 lg:grid-cols-[minmax(0,1fr)_20rem]">
  <section aria-labelledby="in" class="min-w-0">
    <h2 id="in">Bring trees in from a file</h2>
    {#if bush.mayDecide}
      <p class="mt-1 max-w-prose">
        A CSV file with one line a tree. It needs a column <b>tag</b>; species, girth or diameter (with unit), day,
        position and past holes as you have them. Nothing is stored before you have seen what was understood.
        <button class="link" onclick={() => save('baumkin-template.csv', TEMPLATE)}>Take a template</button>.
      </p>
      <div class="mt-3 flex flex-wrap items-end gap-3">
        <label class="flex flex-col gap-1"
          >File
          <input
            type="file"
            class="file-input"
            accept=".csv,.tsv,.txt,text/csv"
            onchange={(event) => take(event.currentTarget.files?.[0])}
          />
        </label>
        <label class="flex flex-col gap-1"
          >Sizes without a unit are
          <select class="select w-36" bind:value={unit} onchange={read}>
            {#each ['cm', 'mm', 'in', 'ft', 'm'] as u (u)}<option value={u}>{u}</option>{/each}
          </select>
        </label>
      </div>
      {#if busy}<p role="status" class="mt-3">Reading …</p>{/if}
      {#if problem}<p role="alert" class="mt-3 font-semibold text-error">{problem}</p>{/if}
      {#if preview && !preview.ok}
        <p role="alert" class="mt-3 font-semibold text-error">{fileName}: {preview.message} Nothing was changed.</p>
      {:else if preview?.ok}
        {@const { trees, bad, ignoredColumns, heading } = preview.file}
        <div class="mt-4" data-testid="preview">
          <p class="text-lg">
            <b>{trees.length}</b>
            {trees.length === 1 ? 'tree' : 'trees'} understood, <b>{bad.length}</b>
            {bad.length === 1 ? 'row' : 'rows'} left out.
            {#if ignoredColumns.length > 0}Columns not used: {ignoredColumns.join(', ')}.{/if}
          </p>
          {#if trees.length > 0}
            <button class="btn mt-2 btn-primary" onclick={bring} disabled={busy}
              >Bring {trees.length} {trees.length === 1 ? 'tree' : 'trees'} in</button
            >
          {/if}
          {#if bad.length > 0}
            <h3 class="mt-4 text-base">Rows left out, and why</h3>
            <p class="aside">
              Mend them in your file and bring it in again: trees that are here already are left as they are.
              <button class="link" onclick={() => preview?.ok && save('rows-left-out.csv', writeBadRows(preview.file))}
                >Take these rows as a file</button
              >.
            </p>
            <table class="mt-1 w-full text-left">
              <thead
                ><tr class="border-b border-base-300"
                  ><th class="py-1 pr-4 font-semibold">Line</th><th class="pr-4 font-semibold">Column</th><th
                    class="pr-4 font-semibold">Why</th
                  ><th class="font-semibold">As it stands</th></tr
                ></thead
              >
              <tbody>
                {#each bad.slice(0, 100) as row (row.line)}
                  <tr class="border-b border-base-300/60 align-top">
                    <td class="py-1 pr-4">{row.line}</td><td class="pr-4">{row.column ?? ''}</td><td class="pr-4"
                      >{row.reason}</td
                    >
                    <td class="aside break-all"
                      >{row.cells
                        .slice(0, heading.length + 2)
                        .join(' | ')
                        .slice(0, 160)}</td
                    >
                  </tr>
                {/each}
              </tbody>
            </table>
            {#if bad.length > 100}<p class="aside">and {bad.length - 100} more, in the file.</p>{/if}
          {/if}
        </div>
      {/if}
    {:else}
      <p class="mt-1">Bringing trees in is the steward’s to do.</p>
    {/if}
    <h2 class="mt-8">Take trees out</h2>
    <p class="mt-1">
      <a class="btn btn-outline btn-sm" href="/api/v1/bushes/{bush.id}/trees.csv" download>Trees as CSV</a>
    </p>
    <p class="aside mt-1">The same columns that come in: last reading, species, position, all holes.</p>
  </section>

  <section aria-labelledby="people">
    <h2 id="people">People</h2>
    <ul class="mt-1 flex flex-col">
      {#each members as member (member.signInName)}
        <li class="flex items-baseline justify-between gap-3 border-b border-base-300/60 py-1.5">
          <span>{member.displayName} <span class="aside">({member.signInName})</span></span><span>{member.role}</span>
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
    <p class="mt-6"><a class="link" href="/bushes">Other bushes</a></p>
  </section>
</div>
