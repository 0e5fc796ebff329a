<script lang="ts">
  import { speciesById } from '@baumkin/core/identify';
  import { LITRES_A_TAP, sapToSyrup } from '@baumkin/core/sap';
  import { formatLength } from '@baumkin/core/units';

  import { counted } from '$lib/labels/counted.ts';
  import { capital } from '$lib/words/capital.ts';

  import GrownOver from '$lib/visit/GrownOver.svelte';

  const { data } = $props();
  const { page } = $derived(data);
  /** sap of two per cent, as sugar maples give it */
  const SAP_A_LITRE = Math.round(sapToSyrup(2));
  const both = (mm: number) => `${formatLength(mm, 'metric', 'trunk')} (${formatLength(mm, 'inch', 'trunk')})`;
  type Shown = (typeof page.trees)[number];
  const thick = ({ dbhMm }: Shown) => (dbhMm === null ? 'not measured' : both(dbhMm));
  const old = ({ age }: Shown) => (age ? `${age[0]} to ${age[1]} years` : 'nobody knows');
  const spring = $derived(`the spring of ${page.season}`);
  const paragraphs = $derived(page.words.split(/\n\s*\n/).filter((text) => text.trim() !== ''));
</script>

<svelte:head>
  <title>{page.name}</title>
  <meta name="robots" content="noindex" />
</svelte:head>

<header class="bg-neutral px-5 py-6 text-neutral-content md:px-10">
  <div class="mx-auto max-w-3xl">
    <p class="text-sm opacity-85">A sugarbush, for whoever comes by</p>
    <h1 class="text-3xl md:text-4xl">{page.name}</h1>
  </div>
</header>
<main class="mx-auto flex max-w-3xl flex-col gap-8 px-5 py-8 text-lg md:px-10">
  {#if paragraphs.length > 0}
    <section aria-label="From its stewards" class="flex flex-col gap-3 font-slab">
      {#each paragraphs as text, i (i)}<p class="whitespace-pre-line">{text}</p>{/each}
    </section>
  {/if}
  <section aria-labelledby="now">
    <h2 id="now">This season</h2>
    {#if page.tapped > 0}
      <p>
        In {spring} <b>{counted(page.tapped, 'maple')}</b> of {page.maples} give sap through
        <b>{counted(page.holes, 'small hole')}</b>. The other {page.without} bear none so far: some are too thin yet, some
        rest, and some are simply not needed.
      </p>
      <p class="mt-2">
        One hole gives about {LITRES_A_TAP} litres (10 gallons) of sap in a season. Sap is almost all water: {SAP_A_LITRE}
        litres boil down to one litre of syrup, so that a hole fills a small jar.
      </p>
    {:else}<p>In {spring} no hole is drilled here yet. {counted(page.maples, 'maple')} stand in this bush.</p>{/if}
  </section>
  <section aria-labelledby="wood">
    <h2 id="wood">Does it hurt the tree?</h2>
    <div class="mt-2 grid gap-x-8 gap-y-4 md:grid-cols-[14rem_1fr]">
      <GrownOver />
      <div class="flex flex-col gap-3">
        <p>
          A tree does not heal as skin does. Around a hole it shuts the wood off, and that wood stays dead: a brown
          streak, a little wider than the hole and much longer, up and down the trunk. No sap runs through it again.
        </p>
        <p>
          But each summer the tree lays a new ring of wood over everything that was, the old hole with it. As long as it
          grows more clear wood than the holes of a year shut off, it stays as strong as before, and so it can be tapped
          for a hundred years.
        </p>
        <p>
          That is why a thin tree gets no hole and a thick one few, why a new hole goes far from the old ones, and why a
          weak tree rests.
        </p>
      </div>
    </div>
  </section>
  {#if page.trees.length > 0}
    <section aria-labelledby="trees">
      <h2 id="trees">The trees</h2>
      <p class="aside">
        Look for the number on the trunk. How old a tree is nobody knows without counting its rings: what is told here
        follows from how thick it is and how fast such trees grow.
      </p>
      <div class="mt-2 overflow-x-auto">
        <table class="w-full text-left text-base">
          <thead>
            <tr class="border-b-2 border-base-content">
              <th class="py-1 pr-3">Number</th><th class="pr-3">Kind</th><th class="pr-3 max-md:hidden">Thick</th><th
                class="pr-3 max-md:hidden">About how old</th
              ><th>Holes</th>
            </tr>
          </thead>
          <tbody>
            {#each page.trees as tree (tree.tag)}
              <tr id="tree-{tree.tag}" class="border-b border-base-300 target:bg-accent/30">
                <th class="py-1 pr-3">{tree.tag}</th>
                <td class="pr-3"
                  >{tree.species ? capital(speciesById(tree.species).name) : 'A maple'}<span
                    class="aside block md:hidden">{thick(tree)}, {old(tree)}</span
                  ></td
                >
                <td class="pr-3 whitespace-nowrap max-md:hidden">{thick(tree)}</td>
                <td class="pr-3 whitespace-nowrap max-md:hidden">{old(tree)}</td>
                <td
                  >{tree.holes === 0
                    ? `none so far; the last in ${tree.lastTapped}`
                    : `${tree.holes}${tree.isDrilled ? '' : ', not drilled yet'}`}</td
                >
              </tr>
            {/each}
          </tbody>
        </table>
      </div>
    </section>
  {/if}
  <section aria-labelledby="thanks" class="border-t border-base-300 pt-5">
    <h2 id="thanks">Thank you</h2>
    <p>
      To these trees, to the ground that they stand in and the water that comes through it, and to those who cared for
      them before us. Please leave buckets, lines and bark as they are, taste no sap without asking, and keep out from
      under the crowns when it storms or ice falls.
    </p>
  </section>
  <p class="aside print:hidden">Kept with Baumkin.</p>
</main>
