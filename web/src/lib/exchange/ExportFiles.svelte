<script lang="ts">
  import { TABLES, writeTemplate } from '@baumkin/core/exchange';
  import Download from '@lucide/svelte/icons/download';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { saveAs } from '$lib/client/decode.ts';

  /** Everything can leave, in open formats; what a column means stands beside it. */
  const bush = useBush();
  const href = (file: string) => `/api/v1/bushes/${bush.id}/files/${file}`;
  const onEarth = $derived((bush.overview?.bush.origin ?? null) !== null);

  const WHOLE = [
    ['archive.json', 'Archive', 'everything ever written down; an empty bush reads it back'],
    ['tables.zip', 'All tables', 'with a descriptor of their columns (Frictionless data package)']
  ] as const;
  const EARTH = [
    ['bush.geojson', 'GeoJSON', 'trees and stands for a mapping program'],
    ['trees.gpx', 'GPX', 'trees as waypoints for a receiver']
  ] as const;
</script>

{#snippet file(name: string, label: string, about: string)}
  <li class="flex items-center gap-3 border-b border-base-300/60 py-1.5">
    <a class="inline-flex min-w-36 link items-center gap-1.5" href={href(name)} download
      ><Download size={15} />{label}</a
    >
    <span class="aside">{about}</span>
  </li>
{/snippet}

<ul class="mt-1 flex flex-col">
  {#each WHOLE as [name, label, about] (name)}{@render file(name, label, about)}{/each}
  {#if onEarth}
    {#each EARTH as [name, label, about] (name)}{@render file(name, label, about)}{/each}
  {/if}
</ul>
{#if !onEarth}
  <p class="aside mt-1">
    GeoJSON and GPX need to know where on earth the bush lies. <a class="link" href="/bush/{bush.id}/map/ground"
      >Say where its origin is</a
    >.
  </p>
{/if}
<h3 class="mt-5 text-base">Tables, and what their columns mean</h3>
{#each TABLES as { name, title, columns } (name)}
  <details class="border-b border-base-300/60 py-1.5">
    <summary class="cursor-pointer"
      ><b>{title}</b> <span class="aside">{columns.map((column) => column.name).join(', ')}</span></summary
    >
    <dl class="my-2 grid grid-cols-[max-content_minmax(0,1fr)] gap-x-5 gap-y-1">
      {#each columns as column (column.name)}
        <dt class="font-semibold">{column.name}</dt>
        <dd>
          {column.explains}{#if column.example}<span class="aside">, such as {column.example}</span>{/if}
        </dd>
      {/each}
    </dl>
    <p class="flex flex-wrap gap-x-5 pb-1">
      <a class="link" href={href(`${name}.csv`)} download>This bush’s {title.toLowerCase()} as CSV</a>
      <button class="link" onclick={() => saveAs(`${name}-template.csv`, writeTemplate(columns))}
        >An empty template</button
      >
    </p>
  </details>
{/each}
<p class="aside mt-3">
  The archive’s form is laid down in a <a class="link" href="/api/v1/archive.schema.json">JSON Schema</a>; programs can
  use the <a class="link" href="/api/v1/openapi.json">interface</a> that this application itself uses.
</p>
